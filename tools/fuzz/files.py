"""Files that are nearly right: seeds of every format that is read, with bytes exchanged, cut out, doubled, cut off."""

from __future__ import annotations

import gzip
import io
import json
import random
import shutil
import struct
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

import numpy as np
from tools.fuzz.places import Place, run_command
from tools.fuzz.sentence import only_a_sentence

from lesart.core.glyphs.fonts import built_in
from lesart.core.raw.decode import KINDS
from lesart.demo import leaf, lines, other_captures, traces, yard
from lesart.project.assets.bdf_write import bdf_text
from lesart.project.assets.font_files import read_font
from lesart.project.assets.pictures import read_picture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.project.new.make import make_project
from lesart.project.tables.sources import check_source, line_parameters

HEX = "".join(f"{t / 10:.1f}  01 03 06 00 be 00 bb 01 0e f9 1f\n" for t in range(40))
JSON = "".join(f'{{"t": {t / 10}, "mass": {42 + t / 100}, "inner": {{"a": {t}}}}}\n' for t in range(60))
ODD_CELLS = (b"1", b"1e308", b"-1e308", b"nan", b"inf", b"")
ODD_CSV = (
    b"t;a\n" + b"".join(b"%d;%s\n" % (t, cell) for t, cell in enumerate(ODD_CELLS)),
    b"2024-01-01T00:00:00\n" * 5,
    b"9" * 5000 + b"x\n",
    b"mass (m\xc2\xb2\xe2\x81\xbb\xc2\xb9)\n1\n2\n",
    b"t,x\n" * 50,
    b'"a,b","c\n1,2\n3,4\n',
    b"\xef\xbb\xbft,x\r\n0,1\r\n1,2\r\n",
    b"t\tx\n0\t1,5\n1\t2,5\n",
)
ODD_VCD = (
    b'$timescale 1s $end\n$var wire 1 ! a $end\n$var wire 2000 " v $end\n$enddefinitions $end\n#0\n0!\n#1\n1!\n'
    b"b" + b"1" * 1500 + b' "\n#13000000000\n0!\n'
)
ODD_JSON = b'{"a":' * 1500 + b"1" + b"}" * 1500 + b'\n{"a": 1}\n'


@lru_cache
def _tabular() -> bytes:
    import polars

    into = io.BytesIO()
    polars.DataFrame({"t": [t / 10 for t in range(50)], "mass": [t % 7 for t in range(50)]}).write_parquet(into)
    return into.getvalue()


@lru_cache
def _seeds(kind: str) -> tuple[bytes, ...]:
    made: dict[str, Callable[[], tuple[bytes, ...]]] = {
        "csv": lambda: (
            yard.capture_text().encode()[:3000],
            other_captures.node_text().encode()[:3000],
            lines.hive_recording().encode()[:3000],
            *ODD_CSV,
        ),
        "jsonl": lambda: (JSON.encode(), ODD_JSON),
        "vcd": lambda: (
            vcd_text({"a": traces.air_trace()}, 1e-6).encode()[:6000],
            ODD_VCD,
            vcd_text({"a": traces.beam_trace(), "b": other_captures.cups_trace()}, 1e-4).encode()[:6000],
        ),
        "wav": lambda: (other_captures.lid_sound()[:4000],),
        "hex": lambda: (HEX.encode(),),
        "parquet": lambda: (_tabular(),),
        "json": lambda: (
            json.dumps([{"at": f"2031-05-14T08:00:{t:02}Z", "mass": t} for t in range(50)]).encode(),
            json.dumps({"t": list(range(40)), "x": [t / 4 for t in range(40)]}).encode(),
            ODD_JSON,
        ),
        "log": lambda: (
            "".join(f"12:00:{t:02}.5 -> T={t / 4} H={t} %\n" for t in range(50)).encode(),
            "".join(f"\x1b[0;32mI ({50 * t}) app: temp={t / 4}\x1b[0m\n" for t in range(50)).encode(),
        ),
        "nmea": lambda: (
            b"".join(b"$GPGGA,0812%02d,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,\r\n" % t for t in range(50)),
        ),
        "npy": lambda: tuple(
            map(_array, (np.arange(60.0).reshape(30, 2), np.arange(40, dtype="i2"), np.zeros(9, "M8[s]")))
        ),
        "npz": lambda: (_arrays(),),
        "xlsx": lambda: (_sheet(),),
        "aiff": lambda: (_aiff(),),
        "gz": lambda: (gzip.compress(yard.capture_text().encode()[:3000]),),
        "bin": lambda: (bytes(range(256)) * 4,),
    }
    return made[kind]()


def _array(values: np.ndarray) -> bytes:  # type: ignore[type-arg]
    into = io.BytesIO()
    np.save(into, values)
    return into.getvalue()


def _arrays() -> bytes:
    into = io.BytesIO()
    np.savez(into, t=np.arange(30) / 10, x=np.arange(30), fs=10)
    return into.getvalue()


@lru_cache
def _sheet() -> bytes:
    from openpyxl import Workbook

    book, into = Workbook(), io.BytesIO()
    for row in (["t", "mass"], ["s", "kg"], *([t / 10, 40 + t] for t in range(40))):
        book.active.append(row)
    book.save(into)
    return into.getvalue()


@lru_cache
def _aiff() -> bytes:
    import soundfile  # type: ignore[import-untyped]

    into = io.BytesIO()
    soundfile.write(into, np.arange(-400, 400, dtype="i2"), 8000, format="AIFF")
    return into.getvalue()


PUT_IN = (b"nan", b"1e400", b"-", b"\n", b"\0", b"9" * 400, b"\xff\xfe", b'"', b"#", b"b1 !\n")


def _mutated(dice: random.Random, seed: bytes) -> bytes:
    """A few changes; sometimes none, so that seeds that are odd by themselves are read too."""
    data = bytearray(seed)
    for _ in range(dice.choice((0, 1, 1, 2, 5, 30))):
        if not data:
            break
        at, what = dice.randrange(len(data)), dice.random()
        if what < 0.4:
            data[at] = dice.choice((dice.randrange(256), 0, 255, 10, 44, 48, 57, 34))
        elif what < 0.55:
            del data[at : at + dice.choice((1, 2, 20))]
        elif what < 0.7:
            data[at:at] = data[at : at + dice.choice((1, 4, 40))]
        elif what < 0.8:
            data[at:at] = dice.choice(
                (b"nan", b"1e400", b"-", b"\n", b"\0", b"9" * 400, b"\xff\xfe", b'"', b"#", b"b1 !\n")
            )
        elif what < 0.9 and len(data) > at + 4:
            data[at : at + 4] = struct.pack("<I", dice.choice((0, 1, 2**31, 2**32 - 1, len(data))))
        else:
            del data[at:]
    return bytes(data)


def _capture(kind: str) -> Place:
    def place(dice: random.Random, folder: Path) -> None:
        path, project = folder / f"odd.{kind}", folder / "odd"
        path.write_bytes(_mutated(dice, dice.choice(_seeds(kind))))
        shutil.rmtree(project, ignore_errors=True)
        with only_a_sentence():
            made = make_project(
                path, project, dice.choice(list(KINDS)) if kind == "vcd" and dice.random() < 0.5 else ""
            )
            check_project((project / FILE).read_text(encoding="utf-8"))
            if dice.random() < 0.1:
                run_command(["check", str(project)])
                run_command(["fit", str(project), made.channels[0]])

    return place


def every_decoder(dice: random.Random, folder: Path) -> None:
    """A damaged trace through a decoder, its signals taken at random."""
    path = folder / "odd.vcd"
    path.write_bytes(_mutated(dice, dice.choice(_seeds("vcd"))))
    kind = dice.choice(list(KINDS.values()))
    table = {"kind": kind.name} | {each.name: dice.choice("ab") for each in line_parameters(kind)}
    source, problems = check_source("s", {"capture": path.name, "format": "vcd", "decode": table})
    if source is not None and not problems:
        with only_a_sentence():
            read_capture(path, source)


@lru_cache
def _pictures() -> dict[str, bytes]:
    from PIL import Image

    grey = Image.open(io.BytesIO(leaf.leaf_picture())).convert("L")
    found = {}
    for name, ending, mode in (("PNG", "png", "L"), ("BMP", "bmp", "L"), ("PPM", "pbm", "1"), ("XBM", "xbm", "1")):
        into = io.BytesIO()
        grey.convert(mode).save(into, name)
        found[ending] = into.getvalue()
    into = io.BytesIO()
    frames = [grey.rotate(angle).convert("P") for angle in (0, 90, 180, 270)]
    frames[0].save(into, "GIF", save_all=True, append_images=frames[1:], duration=40)
    return found | {"gif": into.getvalue()}


def pictures(dice: random.Random, folder: Path) -> None:
    """PNG, BMP, PBM, XBM and GIF."""
    ending = dice.choice(list(_pictures()))
    path = folder / f"odd.{ending}"
    path.write_bytes(_mutated(dice, _pictures()[ending]))
    with only_a_sentence():
        read_picture(path)


@lru_cache
def _outlines() -> bytes:
    """A TrueType font of one letter, drawn here."""
    from fontTools.fontBuilder import FontBuilder
    from fontTools.pens.ttGlyphPen import TTGlyphPen

    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "A", "one"])
    builder.setupCharacterMap({ord("A"): "A", ord("1"): "one"})
    glyphs = {}
    for name, points in (
        (".notdef", ((0, 0), (400, 0), (400, 700))),
        ("A", ((50, 0), (500, 0), (275, 700))),
        ("one", ((200, 0), (300, 0), (300, 700), (200, 700))),
    ):
        pen = TTGlyphPen(None)
        pen.moveTo(points[0])
        for point in points[1:]:
            pen.lineTo(point)
        pen.closePath()
        glyphs[name] = pen.glyph()
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics(dict.fromkeys(glyphs, (550, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Odd", "styleName": "Regular"})
    builder.setupOS2()
    builder.setupPost()
    into = io.BytesIO()
    builder.save(into)
    return into.getvalue()


def fonts(dice: random.Random, folder: Path) -> None:
    """BDF and TrueType."""
    is_bdf = dice.random() < 0.5
    path = folder / ("odd.bdf" if is_bdf else "odd.ttf")
    path.write_bytes(_mutated(dice, bdf_text(built_in()["text 5"]).encode() if is_bdf else _outlines()))
    with only_a_sentence():
        read_font(path, "odd", {"size": dice.choice((4, 12, 128)), "level": 50.0})


LATER = ("json", "log", "nmea", "npy", "npz", "xlsx", "aiff", "gz", "bin")
FILES: dict[str, Place] = {
    **{kind: _capture(kind) for kind in ("csv", "jsonl", "vcd", "wav", "hex", "parquet", *LATER)},
    "every decoder": every_decoder,
    "pictures": pictures,
    "fonts": fonts,
}
