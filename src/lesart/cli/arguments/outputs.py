"""Arguments of commands that write firmware or drawings."""

from __future__ import annotations

from pathlib import Path

from lesart.cli.arguments.shared import Command, as_json, with_force

DRAWN = ("wire", "raw", "law", "true", "sheet", "calm", "glass", "face", "pace", "report")
"""Views: ``face`` is a panel at its own size with a ruler and a cut-out, ``report`` all of them in one PDF."""


def pack_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument(
        "--to", type=Path, metavar="FOLDER", help="where to write the pack; without it nothing is written"
    )
    command.add_argument(
        "--channel", action="append", default=[], metavar="NAME", help="channel to pack; default: all of them"
    )
    command.add_argument("--word", choices=("16", "32"), help="bits of the processor's word; default: the project's")
    command.add_argument(
        "--no-multiplier", action="store_true", help="turn products with constants into shifts and sums"
    )
    command.add_argument("--no-divider", action="store_true", help="turn quotients by constants into products")
    command.add_argument(
        "--within",
        metavar="SHARE",
        help="largest error, as a share of the last place, e.g. '10 %%'; default: the project's",
    )
    command.add_argument("--no-compile", action="store_true", help="do not try it with this machine's compilers")
    command.add_argument(
        "--check", action="store_true", help="only check that the pack in the folder is what the project gives"
    )
    command.add_argument(
        "--compare",
        metavar="ROWS",
        help="what a device prints while it runs the vectors: a file, a serial port, HOST:PORT, or - for a pipe",
    )
    command.add_argument("--baud", type=int, default=115_200, help="rate of the serial port; default: 115200")
    as_json(command)


def draw_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("view", choices=DRAWN)
    command.add_argument(
        "-o",
        "--output",
        type=Path,
        required=True,
        metavar="FILE",
        help="a name ending in .svg or .pdf; for glass .png or .gif too; for a report .pdf",
    )
    command.add_argument("--channel", help="default: the first one")
    command.add_argument("--panel", help="for glass; default: the first one")
    command.add_argument("--dot", type=int, default=6, metavar="N", help="pixels for each dot of a .png; default: 6")
    command.add_argument(
        "--for", dest="lasts", default="5 s", metavar="TIME", help="how long a .gif lasts; default: 5 s"
    )
    command.add_argument(
        "--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture"
    )
    with_force(command)


def completion_arguments(command: Command) -> None:
    command.add_argument("shell", choices=("bash", "zsh", "fish", "tcsh"), help="the shell to write it for")
