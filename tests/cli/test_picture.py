"""``lesart picture``: pictures in of every kind, cut and scaled; files and tables out that read back."""

from __future__ import annotations

import subprocess
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import BYTES, Packing, pack, unpack
from lesart.core.glass.panels.pixels import frame_of, pixels_of
from lesart.project.assets.pictures import KEPT, Cut, fitted, identifier, picture_bytes, read_picture
from tests.cli.spoken import read_json, refused, said


@pytest.fixture
def moon(tmp_path: Path) -> Path:
    """A white disc on black, 40×24."""
    y, x = np.mgrid[:24, :40]
    disc = ((x - 20) ** 2 + (y - 12) ** 2 < 100).astype(np.uint8) * 255
    Image.fromarray(disc).save(tmp_path / "moon.png")
    return tmp_path / "moon.png"


def test_a_picture_in_every_format(tmp_path: Path, moon: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The same pixels, whichever way they came; transparency shows what is behind."""
    image = Image.open(moon)
    wanted = np.asarray(image) > 127
    for ending in ("png", "bmp", "gif", "pbm", "xbm"):
        path = tmp_path / f"m.{ending}"
        (image.convert("1") if ending in ("pbm", "xbm") else image).save(path)
        grey = read_picture(path).frames[0]
        assert ((grey > 0.5) == (wanted if ending != "xbm" else np.asarray(Image.open(path).convert("L")) > 127)).all()
    Image.new("RGBA", (4, 4), (255, 255, 255, 0)).save(tmp_path / "glass.png")
    assert read_picture(tmp_path / "glass.png").frames[0].max() == 0.0
    assert read_picture(tmp_path / "glass.png", 1.0).frames[0].min() == 1.0
    shown = said(capsys, "picture", moon, "--show")
    assert "40×24, 1 frame, flat art" in shown
    assert "▌ threshold" in shown
    assert "██████" in shown


def test_size_and_place(moon: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """All of it in the middle with black beside it; or filling; or a part."""
    found = read_json(said(capsys, "picture", moon, "--size", "128x64", "--json"))
    assert (found["width"], found["height"], found["bytes_a_frame"]) == (128, 64, 1024)
    assert found["way"] == "threshold"
    grey = read_picture(moon).frames[0]
    whole = fitted(grey, 128, 64)
    assert whole.shape == (64, 128)
    columns = np.flatnonzero(whole.max(axis=0))
    assert abs((columns[0] + columns[-1]) / 2 - 63.5) <= 1.5, "in the middle"
    filled = fitted(grey, 64, 64, "fill")
    assert filled.mean() > whole.mean()
    assert fitted(grey, 40, 24, KEPT) == pytest.approx(grey)
    doubled = fitted(grey, 80, 48)
    assert (doubled == np.repeat(np.repeat(grey, 2, 0), 2, 1)).all()
    halved = np.asarray(Image.fromarray((grey * 255).astype(np.float32)).resize((20, 12), Image.Resampling.BOX)) / 255
    assert fitted(grey, 20, 12) == pytest.approx(halved, abs=1e-6)
    assert fitted(grey, 10, 10, "stretch", Cut(15, 7, 10, 10)).min() == 1.0
    assert "are not in a picture of 40×24" in refused(capsys, "picture", moon, "--cut", "30,0,20,20")
    for option, value, says in (
        ("--size", "128", "it must be a size, like 128x64"),
        ("--cut", "1,2", "4 whole numbers"),
    ):
        assert says in refused(capsys, "picture", moon, option, value)


@pytest.mark.parametrize("rows", [False, True])
def test_tables_compile_and_hold_the_frame(
    rows: bool, tmp_path: Path, moon: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """C by a real compiler, Python by running it, plain bytes: all unpack to the picture."""
    wanted = frame_of(read_picture(moon).frames[0] >= 0.5)
    packing = Packing(BYTES[rows])
    extra = ("--rows",) if rows else ()
    for name in ("moon.h", "moon.py", "moon.bin"):
        said(capsys, "picture", moon, *extra, "-o", tmp_path / name)
    assert unpack((tmp_path / "moon.bin").read_bytes(), 40, 24, packing) == wanted
    scope: dict[str, object] = {}
    exec((tmp_path / "moon.py").read_text(), scope)  # what a person would import
    assert (scope["moon_width"], scope["moon_height"]) == (40, 24)
    assert unpack(scope["moon"][0], 40, 24, packing) == wanted  # type: ignore[index]
    source = '#include "moon.h"\n#include <stdio.h>\nint main(void) { fwrite(moon, 1, moon_bytes, stdout); return moon_width - 40; }\n'
    (tmp_path / "main.c").write_text(source)
    subprocess.run(["cc", "-Wall", "-Werror", "main.c", "-o", "show"], cwd=tmp_path, check=True)
    assert subprocess.run([tmp_path / "show"], capture_output=True, check=True).stdout == pack(wanted, packing)


def test_files_read_back(tmp_path: Path) -> None:
    """By the library that others use too, and by Lesart itself: a lit pixel is white, and comes back lit."""
    frame = PixelFrame(13, 5, (0b1010000000001, 0, 0b1111111111111, 1, 0b1000000000000))
    for ending in (".pbm", ".xbm", ".png"):
        path = tmp_path / f"f{ending}"
        path.write_bytes(picture_bytes(frame, ending))
        levels = np.asarray(Image.open(path).convert("L"))
        assert ((levels == 255) == pixels_of(frame)).all(), ending
        assert frame_of(read_picture(path).frames[0] > 0.5) == frame, ending
    assert (identifier("Höhe 2"), identifier("3d"), identifier("--")) == ("h_he_2", "picture_3d", "picture_")


def test_frames_in_turn(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """All of an animation as one table."""
    frames = [Image.new("L", (16, 8), level) for level in (0, 255, 0)]
    frames[0].save(tmp_path / "blink.gif", save_all=True, append_images=frames[1:], duration=100, loop=0)
    picture = read_picture(tmp_path / "blink.gif")
    assert [round(float(frame.mean())) for frame in picture.frames] == [0, 1, 0]
    assert picture.durations_s == pytest.approx((0.1, 0.1, 0.1))
    assert "3 frames" in said(capsys, "picture", tmp_path / "blink.gif", "-o", tmp_path / "blink.c")
    assert "blink_frames = 3" in (tmp_path / "blink.c").read_text()


def test_bad_pictures_end_in_a_sentence(tmp_path: Path, moon: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Cut off, mislabelled, absurdly large, not there, or no picture at all; nothing is written."""
    whole = moon.read_bytes()
    (tmp_path / "cut.png").write_bytes(whole[: len(whole) // 2])
    (tmp_path / "text.png").write_text("hello")
    (tmp_path / "huge.pbm").write_bytes(b"P4\n1000000 1000000\n\0")
    (tmp_path / "bomb.xbm").write_text(
        "#define a_width 9999\n#define a_height 9999\nstatic char a_bits[] = {\n0x00 };\n"
    )
    cases = [
        ("cut.png", "cannot be read as a picture"),
        ("text.png", "is not a PNG"),
        ("none.png", "cannot be read"),
        ("huge.pbm", "claims far too many pixels; 4096 to a side"),
        ("bomb.xbm", "claims far too many pixels"),
    ]
    for name, says in cases:
        assert says in refused(capsys, "picture", tmp_path / name, "-o", tmp_path / "out.h"), name
    assert not (tmp_path / "out.h").exists()
    assert "it ends in .pbm" in refused(capsys, "picture", moon, "-o", tmp_path / "x.jpg")


def test_how_long_a_picture_takes(moon: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """128×64 by two wires at 400 kHz: (1024 + 2) × 9 + 2 clocks are 23.09 ms; by four at 8 MHz 1.024 ms."""
    found = read_json(said(capsys, "picture", moon, "--size", "128x64", "--json"))
    assert found["seconds_a_frame"] == pytest.approx((1026 * 9 + 2) / 400e3)
    text = said(capsys, "picture", moon, "--size", "128x64", "--bus", "four-wire", "--clock", "8 MHz")
    assert "sent in 1.02 ms by four-wire at 8 MHz, at most 977 pictures a second" in text
    assert "--clock 3 kg" in refused(capsys, "picture", moon, "--clock", "3 kg")
    assert "from 1 to 1e+08 Hz" in refused(capsys, "picture", moon, "--clock", "0 Hz")
