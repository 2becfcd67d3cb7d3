"""Text files: their encoding, and their lines."""

from __future__ import annotations

import codecs
import re
from pathlib import Path

from lesart.core.errors import CaptureError
from lesart.project.folder.files import first_bytes, is_packed, read_whole

SAMPLE_BYTES = 65_536
COMMENTS = ("#", "//", "%", ";")
"""Comment signs. A semicolon is one where it is not the delimiter."""
_MARKED = (
    (b"\xff\xfe\x00\x00", "utf-32"),
    (b"\x00\x00\xfe\xff", "utf-32"),
    (b"\xff\xfe", "utf-16"),
    (b"\xfe\xff", "utf-16"),
)
"""Byte order marks; the longer ones first."""
_KNOWN = (
    (b"PK\x03\x04", "a packed folder or a document (zip)", "unpack it, and use the file in it"),
    (b"\x89HDF", "a file of arrays (HDF5)", "write its table as CSV with the program that made it"),
    (b"MATLAB 5.0", "a workspace of a matrix program", "write its columns as CSV with the program that made it"),
    (b"\xd0\xcf\x11\xe0", "an old office document", "save it as .xlsx, .ods or CSV"),
    (b"%PDF", "a PDF document", "use the file of numbers that it was made from"),
    (b"\x89PNG", "a picture", "pictures go on a face, in 7 Glass"),
    (b"\xff\xd8\xff", "a picture", "pictures go on a face, in 7 Glass"),
    (b"GIF8", "a picture", "pictures go on a face, in 7 Glass"),
    (b"SQLite format 3", "a database", "write its table as CSV"),
    (b"OggS", "compressed sound", "write it as WAV"),
    (b"ID3", "compressed sound", "write it as WAV"),
    (b"fLaC", "compressed sound", "write it as WAV"),
    (b"BZh", "packed (bzip2)", "unpack it; gzip is read as it is"),
    (b"\xfd7zXZ", "packed (xz)", "unpack it; gzip is read as it is"),
    (b"\x28\xb5\x2f\xfd", "packed (zstd)", "unpack it; gzip is read as it is"),
    (b"7z\xbc\xaf", "a packed folder (7z)", "unpack it, and use the file in it"),
    (b"\x7fELF", "a program", "a capture holds rows of numbers"),
)
"""Known binary files by their first bytes: what each is, and what to do."""
MOST_ZEROS = 0.3


def sample_text(path: Path) -> str:
    """The first lines of a text file. Raises CaptureError for a file that is missing, empty or binary."""
    head = first_bytes(path, SAMPLE_BYTES)
    if not head and is_packed(path):
        read_whole(path)  # it says what is wrong with it
    if not head.strip(b" \t\r\n\0"):
        raise CaptureError(f"{path}: it is empty; a capture holds rows of numbers.")
    coding = coding_of(head)
    if coding in ("utf-8", "latin-1"):
        _refuse_binary(path, head)
    text = decoded(head)
    return text if len(head) < SAMPLE_BYTES else text.rpartition("\n")[0] or text


def _refuse_binary(path: Path, head: bytes) -> None:
    if head.lstrip()[:1] == b"<" and re.match(
        rb"<(?:!doctype|\?xml|html|table|svg|[a-z]+[ >])", head.lstrip()[:40].lower()
    ):
        raise CaptureError(f"{path}: it is a page or a document in markup (HTML, XML); write its table as CSV.")
    for begins, what, todo in _KNOWN:
        if head.startswith(begins):
            raise CaptureError(f"{path}: it is {what}; {todo}.")
    if b"\0" in head:
        where = head.index(b"\0")
        raise CaptureError(
            f"{path}: byte {where} is 0, so it is binary; for bare numbers say how they lie: "
            '--layout "int16, 2 columns, 1 kHz".'
        )


def coding_of(data: bytes) -> str:
    """The encoding by a byte order mark, else by where its zeros are: ``utf-8`` and ``latin-1`` have none."""
    for mark, coding in _MARKED:
        if data.startswith(mark):
            return coding
    head = data[:4096]
    if len(head) >= 8:
        even, odd = head[0::2].count(0) / len(head[0::2]), head[1::2].count(0) / len(head[1::2])
        if odd > MOST_ZEROS and even < 0.02 and _are_letters(head[0::2]):
            return "utf-16-le"
        if even > MOST_ZEROS and odd < 0.02 and _are_letters(head[1::2]):
            return "utf-16-be"
    try:
        data.decode("utf-8")
    except UnicodeDecodeError as error:
        return "utf-8" if error.start > len(data) - 4 else "latin-1"
    return "utf-8"


def _are_letters(data: bytes) -> bool:
    """True where nearly all bytes occur in text."""
    return sum(0x20 <= byte < 0x7F or byte in b"\t\r\n" for byte in data) >= 0.9 * len(data)


def decoded(data: bytes) -> str:
    """The decoded text, without a truncated character at the end.

    In Latin-1 every byte is a character, and numbers are the same in all encodings.
    """
    coding = coding_of(data)
    if coding == "latin-1":
        # Windows has signs where Latin-1 has control characters; unassigned ones are shown as a dot.
        return data.decode("cp1252", "replace") if b"\x80" in data or b"\x93" in data else data.decode("latin-1")
    if coding == "utf-8":
        # A decoder that skips the mark itself counts positions from after it.
        data = data.removeprefix(codecs.BOM_UTF8)
        try:
            return data.decode("utf-8")
        except UnicodeDecodeError as error:
            return data[: error.start].decode("utf-8")
    return data.decode(coding, "replace").removeprefix("\ufeff")


_KEPT_AS_TEXT = re.compile(r'(?:(?<=[,;\t\n])|\A)="(?=[^"\n]*"(?:[,;\t\r\n]|\Z))')


def text_lines(path: Path, *, whole_only: bool = False) -> list[str]:
    """All lines of a text file. Only line ends end a line: other separators are letters of a cell.

    ``whole_only`` leaves out a last line without an end: a recording that was killed may end in half a number.
    """
    data = read_whole(path)
    return lines_of(decoded(data[: data.rfind(b"\n") + 1] if whole_only else data))


def lines_of(text: str) -> list[str]:
    """Lines by any of the three line ends; a cell like ``="21.5"``, as spreadsheets force texts, loses its sign."""
    if '="' in text:
        text = _KEPT_AS_TEXT.sub('"', text)
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    return lines[:-1] if lines and not lines[-1] else lines


def comment_signs(delimiter: str) -> tuple[str, ...]:
    """Comment signs for a file with that delimiter."""
    return tuple(sign for sign in COMMENTS if sign != delimiter)


def is_comment(line: str, signs: tuple[str, ...]) -> bool:
    """True for a comment line, leading blanks allowed."""
    return line.lstrip(" ").startswith(signs)


def without_sign(line: str) -> str:
    """The text of a comment without its sign."""
    return line.strip().lstrip("#/%;").strip()
