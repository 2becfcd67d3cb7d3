"""The commands of ``lesart`` and their arguments: nothing heavy is imported to read them."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable, Sequence
from pathlib import Path

from lesart import __version__
from lesart.cli.why.arguments import why_arguments

EPILOG = """\
exit code: 0 no fault, 1 a note marked †, 2 wrong use or a broken project,
           3 Lesart itself went wrong, and a report says how

the main job:
  lesart new bridge.csv            make a project from a capture
  lesart open bridge               follow the reading on a full screen
  lesart hand bridge mass --raw 461708
  lesart check bridge              every note, in text or --json
"""

Command = argparse.ArgumentParser


def read_arguments(given: Sequence[str]) -> argparse.Namespace:
    """What was typed after ``lesart``: options stand anywhere; a number below 0 is no option, whatever its unit.

    Ends the program with a sentence where it makes no sense.
    """
    kept = [f" {each}" if re.match(r"-\.?\d", each) else each for each in given]
    if not kept or kept[0] not in COMMANDS:
        return _parser().parse_args(kept)
    name = kept[0]
    says, with_arguments = COMMANDS[name]
    command = argparse.ArgumentParser(prog=f"lesart {name}", description=_description(says))
    with_arguments(command)
    # Not a subparser: those take options only where no argument stands between them.
    return command.parse_intermixed_args(kept[1:], argparse.Namespace(command=name))


def _description(says: str) -> str:
    return says[0].upper() + says[1:] + "."


def _parser() -> argparse.ArgumentParser:
    """All commands by name, for help and for a name that there is not."""
    top = argparse.ArgumentParser(
        prog="lesart",
        epilog=EPILOG,
        formatter_class=argparse.RawDescriptionHelpFormatter,
        description="Follow one sensor reading from the wire to the glass, and get the number right.",
    )
    top.add_argument("--version", action="version", version=f"lesart {__version__}")
    commands = top.add_subparsers(dest="command", metavar="COMMAND")
    for name, (says, _) in COMMANDS.items():
        commands.add_parser(name, help=says, description=_description(says))
    return top


def _json(command: Command) -> None:
    command.add_argument("--json", action="store_true", help="for a script; the object says its version")


def _force(command: Command) -> None:
    command.add_argument("--force", action="store_true", help="replace a file that is there; never one of a project")


def _light(command: Command) -> None:
    look = command.add_mutually_exclusive_group()
    look.add_argument("--light", action="store_const", const=True, help="dark letters on parchment")
    look.add_argument("--dark", dest="light", action="store_const", const=False, help="light letters on ink")


def _demo(command: Command) -> None:
    command.add_argument("folder", type=Path, nargs="?", help="default: ./linden-yard")
    command.add_argument(
        "--wrong", action="store_true", help="with a mistake at each of two stations, to be found by y"
    )
    command.add_argument("--make", action="store_true", help="only make the files")
    command.add_argument("--walk", action="store_true", help="walk through it: twelve stops, a key at each")
    _light(command)


def _open(command: Command) -> None:
    command.add_argument("project", type=Path, help="its folder")
    _light(command)


def _new(command: Command) -> None:
    command.add_argument("file", type=Path, help="the capture, or a serial port that talks")
    command.add_argument("folder", type=Path, nargs="?", help="default: the file's name without its ending, here")
    command.add_argument(
        "--as", dest="kind", metavar="DECODER", help="what is decoded in a trace of edges; default: found out"
    )
    command.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="NAME",
        help="signal of --as, in the order the decoder names them",
    )
    command.add_argument(
        "--is",
        dest="what",
        metavar="SIGNAL",
        help='what its first column is, like "a thermistor half on a 10-bit converter"; what is assumed has a note',
    )
    command.add_argument(
        "--layout", default="", metavar="LAYOUT", help='how bare numbers lie, like "int16, 2 columns, 1 kHz, skip 44"'
    )
    command.add_argument("--baud", type=int, default=115_200, help="of a serial port; default: 115200")
    command.add_argument("--for", dest="lasts", default="5 s", metavar="TIME", help="to listen to a port; default: 5 s")
    command.add_argument("--open", action="store_true", help="open it on a full screen")
    _json(command)


def _hand(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("channel")
    value = command.add_mutually_exclusive_group(required=True)
    value.add_argument("--raw", metavar="V", help="a raw value, e.g. 461708 or '0.35 V'")
    value.add_argument("--reading", metavar="V", help="a reading, e.g. 43.2 or '43.2 kg'")
    command.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    command.add_argument(
        "--with",
        dest="beside",
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help="what another channel reads that a law takes; default: the end of its capture",
    )
    command.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    command.add_argument("--sure", action="store_true", help="and how sure it is: what each tolerance makes of it")
    command.add_argument("--firmware", action="store_true", help="in the whole numbers that lesart pack writes")
    _json(command)


def _many(command: Command) -> None:
    """More than one project, or captures that one reads in turn."""
    command.add_argument("project", type=Path, nargs="+")
    command.add_argument(
        "--over", type=Path, nargs="+", default=[], metavar="FILE", help="captures that it reads in place of its own"
    )
    command.add_argument(
        "--source", metavar="NAME", help="whose capture those are; default: the channel's, or the only one"
    )


def _read(command: Command) -> None:
    _many(command)
    command.add_argument("channel")
    command.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    command.add_argument("--step", choices=("raw", "law", "true", "calm"), default="calm", help="default: calm")
    command.add_argument("--from", dest="start", type=float, metavar="S", help="seconds from the capture's start")
    command.add_argument("--to", dest="end", type=float, metavar="S", help="seconds from the capture's start")
    command.add_argument("--into", type=Path, metavar="FOLDER", help="a file for each capture, in place of printing")
    _json(command)


def _fit(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("channel")
    command.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    _json(command)


def _glass(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("panel", nargs="?", help="default: the first one")
    command.add_argument(
        "--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture"
    )
    command.add_argument("--pattern", metavar="NAME", help="e.g. 'all on'")
    command.add_argument("--count", metavar="HOW", help="e.g. '0 to 99 every 300 ms at column 2 width 2 padded 0'")
    command.add_argument("--step", type=int, default=1, metavar="N", help="of pattern or count, from 1; default: 1")
    command.add_argument(
        "--to",
        metavar="WHERE",
        help="send its bytes as time goes by, framed by SLIP (RFC 1055), to a serial port, to HOST:PORT or into a "
        "file; to the two-wire device of a small computer as they are",
    )
    command.add_argument("--arrange", action="store_true", help="place the items of its face by rules, and write it")
    command.add_argument("--refit", metavar="PANEL", help="make a face for another panel of its face, and write it")
    command.add_argument("--face", help="that is arranged or refitted; default: the first one")
    command.add_argument("--live", action="store_true", help="with --to: from the lines, not from the captures")
    command.add_argument("--for", dest="lasts", metavar="TIME", help="with --to; default: to the end of the capture")
    command.add_argument("--baud", type=int, default=115_200, help="of a serial port; default: 115200")
    command.add_argument("--address", metavar="A", help="of the panel on two wires; default: its trace's, or 0x3C")
    _json(command)
    _force(command)


def _pace(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("--for", dest="lasts", default="10 s", metavar="TIME", help="to play; default: 10 s")
    _json(command)


def _trace(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("panel")
    command.add_argument("-o", "--output", type=Path, required=True, metavar="FILE", help="ends in .vcd")
    command.add_argument(
        "--at", type=float, default=0.0, metavar="S", help="moment of the captures; default: their start"
    )
    command.add_argument("--drawings", type=int, default=3, metavar="N", help="as often as the face says; default: 3")
    _force(command)


def _pack(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument(
        "--to", type=Path, metavar="FOLDER", help="write the pack there; without it nothing is written"
    )
    command.add_argument("--channel", action="append", default=[], metavar="NAME", help="default: all of them")
    command.add_argument("--word", choices=("16", "32"), help="bits of the processor's word; default: the project's")
    command.add_argument("--no-multiplier", action="store_true", help="products with constants become shifts and sums")
    command.add_argument("--no-divider", action="store_true", help="quotients by constants become products")
    command.add_argument(
        "--within", metavar="SHARE", help="of the last place that it may be off, e.g. '10 %%'; default: the project's"
    )
    command.add_argument("--no-compile", action="store_true", help="do not try it with the compilers of this machine")
    command.add_argument(
        "--check", action="store_true", help="only tell whether the pack there is as the project gives"
    )
    command.add_argument(
        "--compare",
        metavar="ROWS",
        help="what a device prints while it runs the vectors: a file, a serial port, HOST:PORT, or - for a pipe",
    )
    command.add_argument("--baud", type=int, default=115_200, help="of the serial port; default: 115200")
    _json(command)


def _picture(command: Command) -> None:
    command.add_argument("file", type=Path, help="PNG, BMP, PBM, XBM or GIF")
    command.add_argument("--size", metavar="WxH", help="of the panel, e.g. 128x64; default: its own")
    command.add_argument("--cut", metavar="X,Y,W,H", help="only this part of it")
    command.add_argument(
        "--scale", choices=("keep all", "fill", "stretch"), default="keep all", help="default: keep all"
    )
    command.add_argument("--dither", choices=("proposed", "threshold", "ordered", "diffused"), default="proposed")
    command.add_argument(
        "--level", type=float, default=50.0, metavar="PERCENT", help="of grey that is lit; default: 50"
    )
    command.add_argument("--invert", action="store_true", help="black is lit")
    command.add_argument("--rows", action="store_true", help="bytes are rows of eight columns; default: pages")
    command.add_argument(
        "--low-first", action=argparse.BooleanOptionalAction, default=True, help="default: low bit first"
    )
    command.add_argument("--from-bottom", action="store_true", help="the lowest page or row is sent first")
    command.add_argument("--from-right", action="store_true", help="the rightmost column is sent first")
    command.add_argument("--negative", action="store_true", help="a bit that is 0 lights its pixel")
    command.add_argument(
        "--offset", type=int, default=0, metavar="N", help="columns of the controller left of the glass"
    )
    command.add_argument(
        "--bus",
        choices=("two-wire", "four-wire", "parallel"),
        default="two-wire",
        help="that it is sent over; default: two-wire",
    )
    command.add_argument("--clock", default="400 kHz", metavar="HZ", help="of the bus; default: 400 kHz")
    command.add_argument("--show", action="store_true", help="draw it in the terminal")
    command.add_argument(
        "-o", "--output", type=Path, metavar="FILE", help=".pbm .xbm .png, or .h .c .py .bin for its bytes"
    )
    _json(command)
    _force(command)


def _font(command: Command) -> None:
    command.add_argument("name", nargs="?", help="default: all are listed")
    command.add_argument("--text", default="0123456789", help="shown in it; default: the digits")
    command.add_argument("-o", "--output", type=Path, metavar="FILE", help="ends in .bdf")
    _force(command)


def _check(command: Command) -> None:
    _many(command)
    command.add_argument(
        "--form", choices=("text", "json", "sarif", "xml"), default="text", help="sarif and xml are for build servers"
    )
    _json(command)


def _law(command: Command) -> None:
    command.add_argument("kind", nargs="?", help="default: all are listed; alone it is explained")
    command.add_argument("values", nargs="*", metavar="X", help="raw values, e.g. 2048 or '0.35 V'")
    command.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="e.g. --set reference=3.3V")
    command.add_argument("--inverse", action="store_true", help="values are readings; what gives them")
    _json(command)


def _wire(command: Command) -> None:
    command.add_argument("project", type=Path, nargs="?", help="its folder; not needed with --kind")
    command.add_argument("--propose", action="store_true", help="join what is not joined by role, and write it")
    command.add_argument("--csv", type=Path, metavar="FILE", help="write the connections as CSV")
    command.add_argument("--bring-up", action="store_true", help="what to check in which order, and what was measured")
    command.add_argument("--kind", metavar="NAME", help="a kind of part as TOML, to make one of your own from")
    _json(command)
    _force(command)


def _decode(command: Command) -> None:
    command.add_argument("file", type=Path, help="a trace of edges (VCD, or levels in CSV), or a time and bytes a line")
    command.add_argument("--as", dest="kind", metavar="KIND", help="a decoder; without one the signals are listed")
    command.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="NAME",
        help="signal to read, in the order the decoder names them; default: those that talk so, or are called so",
    )
    command.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="KEY=VALUE",
        help="a value of the decoder or of its check, e.g. --set baud=9600 --set check=sum",
    )
    command.add_argument(
        "--field",
        action="append",
        default=[],
        metavar="NAME=FIRST,BITS,…",
        help="a value in each frame: first bit, bits, then signed, low-first, scale=0.1",
    )
    command.add_argument("--bits", action="store_true", help="every bit with its margin")
    _json(command)


def _record(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("source")
    command.add_argument("--for", dest="lasts", metavar="TIME", help="e.g. 10s or '5 min'; default: until ctrl+c")
    command.add_argument("--to", type=Path, metavar="FILE", help="default: into captures, and the source names it")
    _json(command)


def _survey(command: Command) -> None:
    command.add_argument(
        "where", help="a serial port, HOST:PORT, a bus as /dev/i2c-1, a source with --project, or a trace (.vcd)"
    )
    command.add_argument("--project", type=Path, metavar="FOLDER", help="says what is expected, and names the source")
    command.add_argument("--units", default="1-247", help="of Modbus; default: 1-247")
    command.add_argument("--timeout", default="0.1 s", metavar="TIME", help="for each unit; default: 0.1 s")
    command.add_argument("--baud", type=int, default=19_200, help="of a serial port; default: 19200")
    command.add_argument("--parity", choices=("none", "even", "odd"), default="none", help="default: none")
    command.add_argument("--expect", action="append", default=[], metavar="ADDRESS", help="e.g. 7 or 0x27")
    command.add_argument("--line", action="append", default=[], metavar="NAME", help="clock, then data of a trace")
    _json(command)


def _rig(command: Command) -> None:
    command.add_argument("folder", type=Path, nargs="?", default=Path(), help="where rig/scale and rig/mast are made")
    command.add_argument("--port", type=int, default=1502, help="for Modbus TCP; 0 takes a free one; default: 1502")
    command.add_argument(
        "--rate", type=float, default=10.0, metavar="HZ", help="lines a second of the scale; default: 10"
    )
    command.add_argument(
        "--fault", action="append", default=[], metavar="WHAT", help="from the start, e.g. 'silence 5 s'"
    )
    command.add_argument("--broker", type=int, metavar="PORT", help="a broker of MQTT too; 0 takes a free port")
    command.add_argument("--udp", type=int, metavar="PORT", help="what the scale says goes to this UDP port too")
    command.add_argument("--until-eof", action="store_true", help="end with the standard input")
    command.add_argument(
        "--glass",
        nargs=2,
        metavar=("PROJECT", "PANEL"),
        help="a stand-in for this panel too, on rig/glass: it obeys the bytes of lesart glass --to, and shows",
    )


DRAWN = ("wire", "raw", "law", "true", "sheet", "calm", "glass", "face", "pace", "report")
"""Views: ``face`` is a panel at its own size with a ruler and a cut-out, ``report`` all of them in one PDF."""


def _draw(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("view", choices=DRAWN)
    command.add_argument(
        "-o",
        "--output",
        type=Path,
        required=True,
        metavar="FILE",
        help="ends in .svg or .pdf; of glass in .png or .gif too; of a report in .pdf",
    )
    command.add_argument("--channel", help="default: the first one")
    command.add_argument("--panel", help="for glass; default: the first one")
    command.add_argument("--dot", type=int, default=6, metavar="N", help="pixels of a .png to a dot; default: 6")
    command.add_argument("--for", dest="lasts", default="5 s", metavar="TIME", help="that a .gif shows; default: 5 s")
    command.add_argument(
        "--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture"
    )
    _force(command)


COMMANDS: dict[str, tuple[str, Callable[[Command], None]]] = {
    "demo": ("open the linden yard, a made-up apiary; its files are made where they are not", _demo),
    "open": ("open a project on a full screen", _open),
    "new": ("make a project from a capture or a serial line, finding out how it is written", _new),
    "hand": ("follow one value through every step to the glass", _hand),
    "read": ("readings as CSV", _read),
    "fit": ("a channel's field at every ugly value, and its whole range swept", _fit),
    "glass": ("a panel lit, or a test pattern on it, with the bytes that are sent", _glass),
    "pace": ("the firmware's loop played: refresh, buses, missed pulses, lag, each with its limit", _pace),
    "trace": ("a logic trace of a panel's lines as the model makes them, to hold a real one against", _trace),
    "pack": ("channels in whole numbers for a firmware, with vectors, compiled and compared", _pack),
    "why": ("what a channel should read, and the few mistakes that explain what it reads", why_arguments),
    "picture": ("a picture made ready for a pixel panel, and its bytes", _picture),
    "font": ("Lesart's own fonts for pixel panels, shown and written as BDF", _font),
    "check": ("every note of a project", _check),
    "law": ("the laws there are, and what one makes of a value", _law),
    "wire": ("connections of the hook-up and what cannot work in it", _wire),
    "decode": ("edges, bits, bytes and values in a trace or a dump of frames", _decode),
    "record": ("listen to a source's line and write what comes into a new capture", _record),
    "survey": ("who answers on a bus, and what it means when none or all of them do", _survey),
    "rig": ("simulated devices on pseudo-terminals and TCP, to listen to and to survey", _rig),
    "draw": ("a chart, a panel, the hook-up sheet or a timing diagram as SVG or PDF, a panel as PNG or GIF too", _draw),
}
