"""The codes that Fit says are those that Glass sends, on every panel that has codes."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.cli.spoken import read_json, said

HEAD = """\
lesart = 1
name = "bench"
[sources.bench]
capture = "bench.csv"
header = 1
rate = "10 Hz"
[channels.tank]
source = "bench"
column = "x"
raw_unit = "L"
unit = "L"
lowest = "0 L"
highest = "99.9 L"
[channels.tank.fit]
width = 4
decimals = 1
unit_text = ""
[faces.front]
panel = "front"
[[faces.front.items]]
kind = "field"
channel = "tank"
row = 0
column = 0
[panels.front]
"""
PANELS = {
    "plain": ('kind = "segments"', [0x00, 0x66, 0xDB, 0x6D]),
    "common anode": ('kind = "segments"\ncommon = "anode"', [0xFF, 0x99, 0x24, 0x92]),
    "inverted": ('kind = "segments"\ninverted = true', [0xFF, 0x99, 0x24, 0x92]),
    "anode, inverted": ('kind = "segments"\ncommon = "anode"\ninverted = true', [0x00, 0x66, 0xDB, 0x6D]),
    # 4 is b c f g, 2. is a b d e g and the point, 5 is a c d f g; bit 0 lights g, bit 6 a.
    "other order": ('kind = "segments"\norder = "g f e d c b a ."', [0x00, 0x33, 0xED, 0x5B]),
    "other order, anode": ('kind = "segments"\norder = "g f e d c b a ."\ncommon = "anode"', [0xFF, 0xCC, 0x12, 0xA4]),
    "fourteen": ('kind = "segments"\nsegments = "14"', None),
    "sixteen, anode": ('kind = "segments"\nsegments = "16"\ncommon = "anode"', None),
    "characters": ('kind = "characters"\ncolumns = 16\nrows = 2', [ord(letter) for letter in "42.5"]),
}
"""With the codes of `` 42.5`` as worked by hand; on characters of ``42.5``, whose point has a cell of its own."""


@pytest.mark.parametrize("name", PANELS)
def test_fit_says_what_glass_sends(name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    panel, worked = PANELS[name]
    (tmp_path / "lesart.toml").write_text(HEAD + panel + "\n")
    (tmp_path / "bench.csv").write_text("x\n42.5\n42.5\n")
    codes = read_json(said(capsys, "hand", tmp_path, "tank", "--raw", "42.5", "--json", code=0))["field"]["codes"]
    if worked is not None:
        assert codes == worked
    # Fourteen segments and a point are two bytes, sixteen and one three, the highest first.
    size = {"fourteen": 2, "sixteen": 3}.get(name.partition(",")[0], 1)
    sent = read_json(said(capsys, "glass", tmp_path, "front", "--json", "--at", "0"))["sent"]
    data = next(bytes.fromhex(each["bytes"]) for each in sent if not each["command"])
    assert data[: 4 * size] == b"".join(code.to_bytes(size, "big") for code in codes)
