"""Of commands that deal with parts, lines and traces."""

from __future__ import annotations

from pathlib import Path

from lesart.cli.arguments.shared import Command, as_json, with_force


def wire_arguments(command: Command) -> None:
    command.add_argument("project", type=Path, nargs="?", help="its folder; not needed with --kind")
    command.add_argument("--propose", action="store_true", help="join what is not joined by role, and write it")
    command.add_argument("--csv", type=Path, metavar="FILE", help="write the connections as CSV")
    command.add_argument("--bring-up", action="store_true", help="what to check in which order, and what was measured")
    command.add_argument("--kind", metavar="NAME", help="a kind of part as TOML, to make one of your own from")
    as_json(command)
    with_force(command)


def decode_arguments(command: Command) -> None:
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
        help="a value in each frame: first bit, bits, then signed, float, low-first, scale=0.1",
    )
    command.add_argument("--bits", action="store_true", help="every bit with its margin")
    as_json(command)


def record_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("source")
    command.add_argument("--for", dest="lasts", metavar="TIME", help="e.g. 10s or '5 min'; default: until ctrl+c")
    command.add_argument("--to", type=Path, metavar="FILE", help="default: into captures, and the source names it")
    as_json(command)


def survey_arguments(command: Command) -> None:
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
    as_json(command)


def rig_arguments(command: Command) -> None:
    command.add_argument("folder", type=Path, nargs="?", default=Path(), help="where its ports are made, as rig/scale")
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
