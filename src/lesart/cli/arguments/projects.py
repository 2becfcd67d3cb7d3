"""Arguments of commands that make, open and read projects."""

from __future__ import annotations

from argparse import ArgumentTypeError
from pathlib import Path

from lesart.cli.arguments.shared import Command, as_json, many_projects, with_look


def _seconds(written: str) -> float:
    """``600``, ``10 min``; for argparse, which shows the message of its own error alone."""
    from lesart.core.errors import QuantityError, UnitError
    from lesart.core.raw.spelled.unit_typed import quantity_typed
    from lesart.core.units import parse_unit

    try:
        return float(quantity_typed(written, parse_unit("s")).to(parse_unit("s")))
    except (QuantityError, UnitError) as error:
        raise ArgumentTypeError(str(error)) from error


def demo_arguments(command: Command) -> None:
    command.add_argument("folder", type=Path, nargs="?", help="default: ./linden-yard, or the job's name")
    command.add_argument("--wrong", action="store_true", help="plant a mistake at each of two stations, for y to find")
    command.add_argument("--list", action="store_true", help="list the worked jobs, each a small project")
    command.add_argument("--job", metavar="NAME", help="open one of these instead of the yard, such as hut")
    command.add_argument("--make", action="store_true", help="only make the files")
    command.add_argument("--walk", action="store_true", help="take the guided walk: twelve stops, a key at each")
    with_look(command)


def open_arguments(command: Command) -> None:
    command.add_argument("project", type=Path, help="its folder")
    with_look(command)


def new_arguments(command: Command) -> None:
    command.add_argument("file", type=Path, help="the capture, or a serial port that talks")
    command.add_argument("folder", type=Path, nargs="?", help="default: the file's name without its ending, here")
    command.add_argument(
        "--as", dest="kind", metavar="DECODER", help="what to decode in a trace of edges; default: recognised"
    )
    command.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="NAME",
        help="signal for --as to read, in the order the decoder names them",
    )
    command.add_argument(
        "--is",
        dest="what",
        metavar="SIGNAL",
        help='what its first column is, like "a thermistor half on a 10-bit converter"; each assumption gets a note',
    )
    command.add_argument(
        "--layout",
        default="",
        metavar="LAYOUT",
        help='how bare numbers are laid out, like "int16, 2 columns, 1 kHz, skip 44"',
    )
    command.add_argument("--baud", type=int, help="rate of a serial port; default: 115200, then the other usual ones")
    command.add_argument(
        "--for", dest="lasts", default="5 s", metavar="TIME", help="how long to listen to a port; default: 5 s"
    )
    command.add_argument("--open", action="store_true", help="open it on a full screen")
    as_json(command)


def check_arguments(command: Command) -> None:
    many_projects(command)
    command.add_argument(
        "--form", choices=("text", "json", "sarif", "xml"), default="text", help="sarif and xml are for build servers"
    )
    as_json(command)


def hand_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("channel")
    value = command.add_mutually_exclusive_group(required=True)
    value.add_argument(
        "--raw", metavar="V", help="a raw value, e.g. 461708, or what a law between gives, e.g. '0.35 V'"
    )
    value.add_argument("--reading", metavar="V", help="a reading, e.g. 43.2 or '43.2 kg'")
    command.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    command.add_argument(
        "--with",
        dest="beside",
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help="what another channel reads, for a law that takes it; default: the end of its capture",
    )
    command.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    command.add_argument("--sure", action="store_true", help="say how sure it is too: what each tolerance contributes")
    command.add_argument("--firmware", action="store_true", help="compute in the whole numbers that lesart pack writes")
    as_json(command)


def read_arguments(command: Command) -> None:
    many_projects(command)
    command.add_argument("channel")
    command.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    command.add_argument("--step", choices=("raw", "law", "true", "calm"), default="calm", help="default: calm")
    command.add_argument("--from", dest="start", type=_seconds, metavar="S", help="seconds from the capture's start")
    command.add_argument("--to", dest="end", type=_seconds, metavar="S", help="seconds from the capture's start")
    command.add_argument(
        "--into", type=Path, metavar="FOLDER", help="write a file for each capture instead of printing"
    )
    as_json(command)


def fit_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("channel")
    command.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    as_json(command)


def law_arguments(command: Command) -> None:
    command.add_argument("kind", nargs="?", help="a law, which is explained where no values follow; default: list all")
    command.add_argument("values", nargs="*", metavar="X", help="raw values, e.g. 2048 or '0.35 V'")
    command.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="e.g. --set reference=3.3V")
    command.add_argument(
        "--inverse", action="store_true", help="take the values as readings, and say which input gives them"
    )
    as_json(command)


def allow_arguments(command: Command) -> None:
    command.add_argument("project", type=Path, help="its folder")
    command.add_argument("--yes", action="store_true", help="do not ask")
