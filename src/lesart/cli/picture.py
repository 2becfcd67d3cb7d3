"""``lesart picture``: a picture made ready for a panel: cut, scaled, lit or dark, and as a controller's bytes."""

from __future__ import annotations

import argparse
import re
from typing import Any

from lesart.cli.printed.answer import print_json, quantity_of
from lesart.cli.printed.exported import write_out
from lesart.core.errors import RequestError
from lesart.core.glass.dither import WAYS, dither, every_way, is_flat, proposed
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import BYTES, Packing, pack
from lesart.core.glass.panels.pixels import frame_of, inverted
from lesart.core.glass.panels.transfer import Bus
from lesart.core.quantity import counted, plain_number
from lesart.project.assets.pictures import (
    Cut,
    Picture,
    c_table,
    fitted,
    identifier,
    picture_bytes,
    python_table,
    read_picture,
)

ENDINGS = (".pbm", ".xbm", ".png", ".h", ".c", ".py", ".bin")
TABLES = (".h", ".c", ".py", ".bin")


def run(options: argparse.Namespace) -> int:
    """Print the cost of each way, and write what was asked for."""
    if options.output is not None and options.output.suffix.lower() not in ENDINGS:
        raise RequestError(f"-o {options.output}: it ends in {', '.join(ENDINGS)}.")
    picture = read_picture(options.file, 1.0 if options.invert else 0.0)
    width, height = _pair(options.size, "--size", "128x64") if options.size else picture.size
    cut = Cut(*_numbers(options.cut, 4, "--cut", "10,0,64,48")) if options.cut else None
    around = 1.0 if options.invert else 0.0
    greys = [fitted(frame, width, height, options.scale, cut, around) for frame in picture.frames]
    way = options.dither if options.dither in WAYS else proposed(greys[0])
    frames = [frame_of(dither(grey, way, options.level / 100.0)) for grey in greys]
    frames = [inverted(frame) for frame in frames] if options.invert else frames
    packing = Packing(
        BYTES[options.rows],
        options.low_first,
        options.from_bottom,
        options.from_right,
        options.negative,
        options.offset,
    )
    if options.output is not None:
        _write(options, frames, packing)
    _say(options, picture, way, every_way(greys[0], options.level / 100.0), is_flat(greys[0]), frames, packing)
    return 0


def _write(options: argparse.Namespace, frames: list[PixelFrame], packing: Packing) -> None:
    ending, name = options.output.suffix.lower(), identifier(options.output.stem)
    content: str | bytes
    if ending in (".h", ".c"):
        content = c_table(frames, packing, name)
    elif ending == ".py":
        content = python_table(frames, packing, name)
    elif ending == ".bin":
        content = b"".join(pack(frame, packing) for frame in frames)
    else:
        content = picture_bytes(frames[0], ending)
    if options.output.resolve() == options.file.resolve():
        raise RequestError(f"-o {options.output}: it is the picture itself; name another file.")
    write_out(options, content)


def _say(
    options: argparse.Namespace,
    picture: Picture,
    way: str,
    ways: Any,
    flat: bool,
    frames: list[PixelFrame],
    packing: Packing,
) -> None:
    first = frames[0]
    size = packing.size(first.width, first.height)
    bus = Bus(options.bus, quantity_of(options.clock, "--clock", "Hz", lowest=1.0, highest=1e8))
    more_columns, more_rows = packing.padded(first.width, first.height)
    found = {
        "width": first.width,
        "height": first.height,
        "frames": len(frames),
        "left_out": picture.more,
        "way": way,
        "is_flat": flat,
        "lit_share": first.lit_share,
        "ways": [{"way": each.way, "tone_error": each.tone_error, "lone": each.lone} for each in ways],
        "bytes_a_frame": size,
        "bytes": size * len(frames),
        "seconds_a_frame": bus.transfer_s(size),
        "padded": {"columns": more_columns, "rows": more_rows},
        "written": None if options.output is None else str(options.output),
    }
    if options.json:
        print_json(found)
        return
    width, height = picture.size
    kind = "flat art" if flat else "a picture with greys"
    print(f"{options.file.name}: {width}×{height}, {counted(len(frames), 'frame')}, {kind}")
    if picture.more:
        print(f"{counted(picture.more, 'frame')} more left out.")
    for each in ways:
        mark = "▌" if each.way == way else " "
        print(
            f" {mark} {each.way:<10} greys off by {100 * each.tone_error:5.1f} %   lone pixels {100 * each.lone:5.1f} %"
        )
    print(f"{first.width}×{first.height}, {100 * first.lit_share:.1f} % lit, {size} bytes a frame, {packing.bytes}")
    seconds = bus.transfer_s(size)
    print(
        f"sent in {plain_number(1000 * seconds, 3)} ms by {bus.kind} at {options.clock}, at most "
        f"{plain_number(1 / seconds, 3)} pictures a second"
    )
    if more_columns or more_rows:
        print(f"padded by {counted(more_columns, 'column')} and {counted(more_rows, 'row')}, since a byte holds eight")
    if options.show:
        print("\n".join(_blocks(first)))
    if options.output is not None:
        lost = " (the first frame)" if len(frames) > 1 and options.output.suffix.lower() not in TABLES else ""
        print(f"Written: {options.output}{lost}")


def _blocks(frame: PixelFrame) -> list[str]:
    """Blocks with two rows of pixels per line."""
    signs = {(False, False): " ", (True, False): "▀", (False, True): "▄", (True, True): "█"}
    return [
        "".join(signs[frame.lit(x, y), frame.lit(x, y + 1)] for x in range(frame.width))
        for y in range(0, frame.height, 2)
    ]


def _pair(written: str, option: str, example: str) -> tuple[int, int]:
    match = re.fullmatch(r"(\d{1,4})[x×](\d{1,4})", written.strip())
    if match is None or not int(match[1]) or not int(match[2]):
        raise RequestError(f"{option} {written}: it must be a size, like {example}.")
    return int(match[1]), int(match[2])


def _numbers(written: str, count: int, option: str, example: str) -> tuple[int, ...]:
    parts = written.split(",")
    if len(parts) != count or not all(re.fullmatch(r"\s*\d{1,5}\s*", part) for part in parts):
        raise RequestError(f"{option} {written}: it must be {count} whole numbers, like {example}.")
    return tuple(int(part) for part in parts)
