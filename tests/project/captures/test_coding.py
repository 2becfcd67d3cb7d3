"""Text files in any coding, whole, cut anywhere, with a mark of their coding or without."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.errors import StorageError
from lesart.project.captures.text import decoded
from lesart.project.folder.store import read_text

TEXT = "t,°C\n0,20.5 ± 0.2 °C – “lid”\n1,21.5 € 𝟓\n"


@pytest.mark.parametrize("coding", ["utf-8", "utf-8-sig", "utf-16"])
def test_a_text_cut_anywhere_is_read_as_far_as_it_goes(coding: str) -> None:
    """Recordings end where they were killed, and of a long file the first bytes are looked at alone."""
    data = TEXT.encode(coding)
    for end in range(8, len(data) + 1):
        found = decoded(data[:end]).removesuffix("\ufffd")  # half a letter of two bytes is shown as one that is lost
        assert TEXT.startswith(found), end
        assert len(f"{TEXT}."[: len(found) + 1].encode(coding)) > end, "there was room for no letter more"


@pytest.mark.parametrize("coding", ["latin-1", "cp1252"])
def test_one_byte_a_letter(coding: str) -> None:
    """What no longer code can be is one of these."""
    text = "t;°C\n0;20,5 ± 0,2\n" + ("“lid”\n" if coding == "cp1252" else "")
    for end in range(8, len(text)):
        assert decoded(text.encode(coding)[:end]) == text[:end]


@pytest.mark.parametrize("mark", [b"", b"\xef\xbb\xbf"])
def test_the_byte_of_a_project_that_is_no_text_is_named(tmp_path: Path, mark: bytes) -> None:
    """By its place in the file, a mark at its beginning counted."""
    path = tmp_path / "lesart.toml"
    path.write_bytes(mark + b"lesart = 1\r\n# \xb0C\n")
    with pytest.raises(StorageError) as refused:
        read_text(path)
    assert str(refused.value) == f"{path}: byte {len(mark) + 14} is not UTF-8 text; a project is TOML text."
    path.write_bytes(mark + b"lesart = 1\r\n")
    assert read_text(path) == "lesart = 1\n"
