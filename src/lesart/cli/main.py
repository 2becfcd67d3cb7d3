"""``lesart``: arguments are read here, with nothing heavy imported; each command's module is imported when it runs."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Sequence
from importlib import import_module
from pathlib import Path

from lesart import __version__

FAULT, WRONG = 1, 2
"""Exit codes: a † note was found; wrong use or a broken project. 0 is neither."""

EPILOG = """\
exit code: 0 no fault, 1 a note marked †, 2 wrong use or a broken project

the main job:
  lesart new bridge.csv            make a project from a capture
  lesart open bridge               follow the reading on a full screen
  lesart hand bridge mass --raw 461708
  lesart check bridge              every note, in text or --json
"""


def parser() -> argparse.ArgumentParser:
    """All commands with their arguments."""
    top = argparse.ArgumentParser(
        prog="lesart", epilog=EPILOG, formatter_class=argparse.RawDescriptionHelpFormatter,
        description="Follow one sensor reading from the wire to the glass, and get the number right.",
    )  # fmt: skip
    top.add_argument("--version", action="version", version=f"lesart {__version__}")
    commands = top.add_subparsers(dest="command", metavar="COMMAND")

    demo = _command(commands, "demo", "open the linden yard, a made-up apiary; its files are made where they are not")
    demo.add_argument("folder", type=Path, nargs="?", default=Path("linden-yard"), help="default: ./linden-yard")
    demo.add_argument("--make", action="store_true", help="only make the files")
    _light(demo)

    opened = _command(commands, "open", "open a project on a full screen")
    opened.add_argument("project", type=Path, help="its folder")
    _light(opened)

    new = _command(commands, "new", "make a project from a capture or a serial line, finding out how it is written")
    new.add_argument("file", type=Path, help="the capture, or a serial port that talks")
    new.add_argument("folder", type=Path, nargs="?", help="default: the file's name without its ending, here")
    new.add_argument("--as", dest="kind", metavar="DECODER", help="what is decoded in a trace of edges (.vcd)")
    new.add_argument("--baud", type=int, default=115_200, help="of a serial port; default: 115200")
    new.add_argument("--for", dest="lasts", default="5 s", metavar="TIME", help="to listen to a port; default: 5 s")
    new.add_argument("--open", action="store_true", help="open it on a full screen")
    _json(new)

    hand = _command(commands, "hand", "follow one value through every step to the glass")
    hand.add_argument("project", type=Path)
    hand.add_argument("channel")
    value = hand.add_mutually_exclusive_group(required=True)
    value.add_argument("--raw", metavar="V", help="a raw value, e.g. 461708 or '0.35 V'")
    value.add_argument("--reading", metavar="V", help="a reading, e.g. 43.2 or '43.2 kg'")
    hand.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    hand.add_argument(
        "--with",
        dest="beside",
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help="what another channel reads that a law takes; default: the end of its capture",
    )
    hand.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    hand.add_argument("--sure", action="store_true", help="and how sure it is: what each tolerance makes of it")
    _json(hand)

    read = _command(commands, "read", "readings as CSV")
    read.add_argument("project", type=Path)
    read.add_argument("channel")
    read.add_argument("--variant", metavar="NAME", help="default: α, the channel itself")
    read.add_argument("--step", choices=("raw", "law", "true", "calm"), default="calm", help="default: calm")
    read.add_argument("--from", dest="start", type=float, metavar="S", help="seconds from the capture's start")
    read.add_argument("--to", dest="end", type=float, metavar="S", help="seconds from the capture's start")
    _json(read)

    fit = _command(commands, "fit", "a channel's field at every ugly value, and its whole range swept")
    fit.add_argument("project", type=Path)
    fit.add_argument("channel")
    fit.add_argument("--panel", metavar="NAME", help="default: the first panel that shows the channel")
    _json(fit)

    glass = _command(commands, "glass", "a panel lit, or a test pattern on it, with the bytes that are sent")
    glass.add_argument("project", type=Path)
    glass.add_argument("panel", nargs="?", help="default: the first one")
    glass.add_argument("--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture")
    glass.add_argument("--pattern", metavar="NAME", help="e.g. 'all on'")
    glass.add_argument("--step", type=int, default=1, metavar="N", help="of the pattern, from 1; default: 1")
    _json(glass)

    pace = _command(
        commands, "pace", "the firmware's loop played: refresh, buses, missed pulses, lag, each with its limit"
    )
    pace.add_argument("project", type=Path)
    pace.add_argument("--for", dest="lasts", default="10 s", metavar="TIME", help="to play; default: 10 s")
    _json(pace)

    trace = _command(
        commands, "trace", "a logic trace of a panel's lines as the model makes them, to hold a real one against"
    )
    trace.add_argument("project", type=Path)
    trace.add_argument("panel")
    trace.add_argument("-o", "--output", type=Path, required=True, metavar="FILE", help="ends in .vcd")
    trace.add_argument(
        "--at", type=float, default=0.0, metavar="S", help="moment of the captures; default: their start"
    )
    trace.add_argument("--drawings", type=int, default=3, metavar="N", help="as often as the face says; default: 3")

    picture = _command(commands, "picture", "a picture made ready for a pixel panel, and its bytes")
    picture.add_argument("file", type=Path, help="PNG, BMP, PBM, XBM or GIF")
    picture.add_argument("--size", metavar="WxH", help="of the panel, e.g. 128x64; default: its own")
    picture.add_argument("--cut", metavar="X,Y,W,H", help="only this part of it")
    picture.add_argument(
        "--scale", choices=("keep all", "fill", "stretch"), default="keep all", help="default: keep all"
    )
    picture.add_argument("--dither", choices=("proposed", "threshold", "ordered", "diffused"), default="proposed")
    picture.add_argument(
        "--level", type=float, default=50.0, metavar="PERCENT", help="of grey that is lit; default: 50"
    )
    picture.add_argument("--invert", action="store_true", help="black is lit")
    picture.add_argument("--rows", action="store_true", help="bytes are rows of eight columns; default: pages")
    picture.add_argument(
        "--low-first", action=argparse.BooleanOptionalAction, default=True, help="default: low bit first"
    )
    picture.add_argument("--from-bottom", action="store_true", help="the lowest page or row is sent first")
    picture.add_argument("--from-right", action="store_true", help="the rightmost column is sent first")
    picture.add_argument("--negative", action="store_true", help="a bit that is 0 lights its pixel")
    picture.add_argument(
        "--offset", type=int, default=0, metavar="N", help="columns of the controller left of the glass"
    )
    picture.add_argument("--show", action="store_true", help="draw it in the terminal")
    picture.add_argument(
        "-o", "--output", type=Path, metavar="FILE", help=".pbm .xbm .png, or .h .c .py .bin for its bytes"
    )
    _json(picture)

    font = _command(commands, "font", "Lesart's own fonts for pixel panels, shown and written as BDF")
    font.add_argument("name", nargs="?", help="default: all are listed")
    font.add_argument("--text", default="0123456789", help="shown in it; default: the digits")
    font.add_argument("-o", "--output", type=Path, metavar="FILE", help="ends in .bdf")

    check = _command(commands, "check", "every note of a project")
    check.add_argument("project", type=Path)
    _json(check)

    law = _command(commands, "law", "the laws there are, and what one makes of a value")
    law.add_argument("kind", nargs="?", help="default: all are listed; alone it is explained")
    law.add_argument("values", nargs="*", metavar="X", help="raw values, e.g. 2048 or '0.35 V'")
    law.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="e.g. --set reference=3.3V")
    law.add_argument("--inverse", action="store_true", help="values are readings; what gives them")
    _json(law)

    wire = _command(commands, "wire", "connections of the hook-up and what cannot work in it")
    wire.add_argument("project", type=Path, nargs="?", help="its folder; not needed with --kind")
    wire.add_argument("--propose", action="store_true", help="join what is not joined by role, and write it")
    wire.add_argument("--csv", type=Path, metavar="FILE", help="write the connections as CSV")
    wire.add_argument("--bring-up", action="store_true", help="what to check in which order, and what was measured")
    wire.add_argument("--kind", metavar="NAME", help="a kind of part as TOML, to make one of your own from")
    _json(wire)

    decode = _command(commands, "decode", "edges, bits, bytes and values in a trace or a dump of frames")
    decode.add_argument("file", type=Path, help="ends in .vcd, or holds a time and bytes a line")
    decode.add_argument("--as", dest="kind", metavar="KIND", help="a decoder; without one the signals are listed")
    decode.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="NAME",
        help="signal to read, in the order the decoder names them; default: those of the file",
    )
    decode.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="KEY=VALUE",
        help="a value of the decoder or of its check, e.g. --set baud=9600 --set check=sum",
    )
    decode.add_argument(
        "--field",
        action="append",
        default=[],
        metavar="NAME=FIRST,BITS,…",
        help="a value in each frame: first bit, bits, then signed, low-first, scale=0.1",
    )
    decode.add_argument("--bits", action="store_true", help="every bit with its margin")
    _json(decode)

    record = _command(commands, "record", "listen to a source's line and write what comes into a new capture")
    record.add_argument("project", type=Path)
    record.add_argument("source")
    record.add_argument("--for", dest="lasts", metavar="TIME", help="e.g. 10s or '5 min'; default: until ctrl+c")
    record.add_argument("--to", type=Path, metavar="FILE", help="default: into captures, and the source names it")
    _json(record)

    survey = _command(commands, "survey", "who answers on a bus, and what it means when nobody or everybody does")
    survey.add_argument("where", help="a serial port, HOST:PORT, a source with --project, or a trace (.vcd)")
    survey.add_argument("--project", type=Path, metavar="FOLDER", help="says what is expected, and names the source")
    survey.add_argument("--units", default="1-247", help="of Modbus; default: 1-247")
    survey.add_argument("--timeout", default="0.1 s", metavar="TIME", help="for each unit; default: 0.1 s")
    survey.add_argument("--baud", type=int, default=19_200, help="of a serial port; default: 19200")
    survey.add_argument("--parity", choices=("none", "even", "odd"), default="none", help="default: none")
    survey.add_argument("--expect", action="append", default=[], metavar="ADDRESS", help="e.g. 7 or 0x27")
    survey.add_argument("--line", action="append", default=[], metavar="NAME", help="clock, then data of a trace")
    _json(survey)

    rig = _command(commands, "rig", "simulated devices on pseudo-terminals and TCP, to listen to and to survey")
    rig.add_argument("folder", type=Path, nargs="?", default=Path(), help="where rig/scale and rig/mast are made")
    rig.add_argument("--port", type=int, default=1502, help="for Modbus TCP; 0 takes a free one; default: 1502")
    rig.add_argument("--rate", type=float, default=10.0, metavar="HZ", help="lines a second of the scale; default: 10")
    rig.add_argument("--fault", action="append", default=[], metavar="WHAT", help="from the start, e.g. 'silence 5 s'")
    rig.add_argument("--until-eof", action="store_true", help="end with the standard input")

    draw = _command(commands, "draw", "a chart, a panel, the hook-up sheet or a timing diagram as SVG or PDF")
    draw.add_argument("project", type=Path)
    draw.add_argument("view", choices=("wire", "raw", "law", "true", "sheet", "calm", "glass", "pace"))
    draw.add_argument("-o", "--output", type=Path, required=True, metavar="FILE", help="ends in .svg or .pdf")
    draw.add_argument("--channel", help="default: the first one")
    draw.add_argument("--panel", help="for glass; default: the first one")
    draw.add_argument("--at", type=float, metavar="S", help="the cursor, in seconds; default: a fifth of the capture")
    return top


def _command(
    commands: argparse._SubParsersAction[argparse.ArgumentParser], name: str, says: str
) -> argparse.ArgumentParser:
    return commands.add_parser(name, help=says, description=says[0].upper() + says[1:] + ".")


def _json(command: argparse.ArgumentParser) -> None:
    command.add_argument("--json", action="store_true", help="for a script; the object says its version")


def _light(command: argparse.ArgumentParser) -> None:
    command.add_argument("--light", action="store_true", help="dark letters on parchment")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; the exit code. A person never sees a traceback of bad input."""
    options = parser().parse_args(arguments)
    command = options.command or "welcome"
    from lesart.core.errors import LesartError

    try:
        module = import_module(f"lesart.cli.{ {'open': 'screen', 'welcome': 'screen'}.get(command, command) }")
        return int(module.run(options))
    except LesartError as error:
        for line in str(error).splitlines():
            print(f"lesart: {line}", file=sys.stderr)
        return WRONG
    except BrokenPipeError:
        # Whoever read our output has seen enough. Python would complain at exit when it flushes; give it a sink.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        return 130
