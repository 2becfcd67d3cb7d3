"""Arguments of commands for panels, pictures and timing."""

from __future__ import annotations

import argparse
from pathlib import Path

from lesart.cli.arguments.shared import Command, as_json, with_force


def glass_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("panel", nargs="?", help="default: the first one")
    command.add_argument(
        "--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture"
    )
    command.add_argument("--pattern", metavar="NAME", help="e.g. 'all on'")
    command.add_argument("--count", metavar="HOW", help="e.g. '0 to 99 every 300 ms at column 2 width 2 padded 0'")
    command.add_argument(
        "--step", type=int, default=1, metavar="N", help="step of the pattern or count, from 1; default: 1"
    )
    command.add_argument(
        "--to",
        metavar="WHERE",
        help="send its bytes as time goes by, framed by SLIP (RFC 1055), to a serial port, to HOST:PORT or into a "
        "file; to the two-wire device of a small computer as they are",
    )
    command.add_argument("--arrange", action="store_true", help="place the items of its face by rules, and write it")
    command.add_argument("--refit", metavar="PANEL", help="make a face for another panel from its face, and write it")
    command.add_argument("--face", help="the face to arrange or refit; default: the first one")
    command.add_argument("--live", action="store_true", help="with --to: follow the live lines instead of the captures")
    command.add_argument(
        "--for", dest="lasts", metavar="TIME", help="with --to: how long; default: to the end of the capture"
    )
    command.add_argument("--baud", type=int, default=115_200, help="rate of a serial port; default: 115200")
    command.add_argument(
        "--address", metavar="A", help="address of the panel on two wires; default: its trace's, or the usual one"
    )
    as_json(command)
    with_force(command)


def pace_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument(
        "--for", dest="lasts", default="10 s", metavar="TIME", help="how long to play it; default: 10 s"
    )
    command.add_argument("--explain", action="store_true", help="show below each figure how it is worked out")
    as_json(command)


def trace_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("panel")
    command.add_argument("-o", "--output", type=Path, required=True, metavar="FILE", help="a name ending in .vcd")
    command.add_argument(
        "--at", type=float, default=0.0, metavar="S", help="where in the captures to start; default: at their start"
    )
    command.add_argument(
        "--drawings",
        type=int,
        default=3,
        metavar="N",
        help="how many drawings, as often as the face redraws; default: 3",
    )
    with_force(command)


def picture_arguments(command: Command) -> None:
    command.add_argument("file", type=Path, help="PNG, BMP, PBM, XBM or GIF")
    command.add_argument("--size", metavar="WxH", help="size of the panel, e.g. 128x64; default: the picture's own")
    command.add_argument("--cut", metavar="X,Y,W,H", help="use only this part of the picture")
    command.add_argument(
        "--scale", choices=("keep all", "fill", "stretch"), default="keep all", help="default: keep all"
    )
    command.add_argument("--dither", choices=("proposed", "threshold", "ordered", "diffused"), default="proposed")
    command.add_argument(
        "--level", type=float, default=50.0, metavar="PERCENT", help="grey from which on a pixel is lit; default: 50"
    )
    command.add_argument("--invert", action="store_true", help="light black pixels instead of white ones")
    command.add_argument(
        "--rows", action="store_true", help="let each byte hold eight columns of a row; default: eight rows of a page"
    )
    command.add_argument(
        "--low-first", action=argparse.BooleanOptionalAction, default=True, help="default: low bit first"
    )
    command.add_argument("--from-bottom", action="store_true", help="send the lowest page or row first")
    command.add_argument("--from-right", action="store_true", help="send the rightmost column first")
    command.add_argument("--negative", action="store_true", help="let a 0 light its pixel")
    command.add_argument(
        "--offset", type=int, default=0, metavar="N", help="columns that the controller has to the left of the glass"
    )
    command.add_argument(
        "--bus",
        choices=("two-wire", "four-wire", "parallel"),
        default="two-wire",
        help="the bus that it is sent over; default: two-wire",
    )
    command.add_argument("--clock", default="400 kHz", metavar="HZ", help="clock of the bus; default: 400 kHz")
    command.add_argument("--show", action="store_true", help="draw it in the terminal")
    command.add_argument(
        "-o", "--output", type=Path, metavar="FILE", help=".pbm .xbm .png, or .h .c .py .bin for its bytes"
    )
    as_json(command)
    with_force(command)


def font_arguments(command: Command) -> None:
    command.add_argument("name", nargs="?", help="a font; default: list all")
    command.add_argument("--text", default="0123456789", help="text to show in it; default: the digits")
    command.add_argument("-o", "--output", type=Path, metavar="FILE", help="a name ending in .bdf")
    with_force(command)
