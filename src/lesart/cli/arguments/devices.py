"""Arguments of commands for parts, lines and traces."""

from __future__ import annotations

from pathlib import Path

from lesart.cli.arguments.shared import Command, as_json, with_force


def wire_arguments(command: Command) -> None:
    command.add_argument("project", type=Path, nargs="?", help="its folder; not needed with --kind")
    command.add_argument(
        "--propose", action="store_true", help="join by their roles what is not joined yet, and write it"
    )
    command.add_argument("--csv", type=Path, metavar="FILE", help="write the connections as CSV")
    command.add_argument("--bring-up", action="store_true", help="list what to check, in order, and what was measured")
    command.add_argument("--kind", metavar="NAME", help="print a kind of part as TOML, to make your own from")
    as_json(command)
    with_force(command)


def decode_arguments(command: Command) -> None:
    command.add_argument(
        "file", type=Path, help="a trace of edges (VCD, or levels in CSV), or a dump with a time and bytes on each line"
    )
    command.add_argument("--as", dest="kind", metavar="KIND", help="the decoder; without one the signals are listed")
    command.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="NAME",
        help="signal to read, in the order the decoder names them; default: found by what they carry or are called",
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
    command.add_argument("--bits", action="store_true", help="print every bit with its margin")
    as_json(command)


def record_arguments(command: Command) -> None:
    command.add_argument("project", type=Path)
    command.add_argument("source")
    command.add_argument("--for", dest="lasts", metavar="TIME", help="e.g. 10s or '5 min'; default: until ctrl+c")
    command.add_argument(
        "--to",
        type=Path,
        metavar="FILE",
        help="the new capture; default: a file in captures, which the source then names",
    )
    as_json(command)


def survey_arguments(command: Command) -> None:
    command.add_argument(
        "where", help="a serial port, HOST:PORT, a bus as /dev/i2c-1, a source with --project, or a trace (.vcd)"
    )
    command.add_argument(
        "--project", type=Path, metavar="FOLDER", help="the project that says what is expected, and has the source"
    )
    command.add_argument("--units", default="1-247", help="units of Modbus to ask; default: 1-247")
    command.add_argument(
        "--timeout", default="0.1 s", metavar="TIME", help="how long to wait for each unit; default: 0.1 s"
    )
    command.add_argument("--baud", type=int, default=19_200, help="rate of a serial port; default: 19200")
    command.add_argument("--parity", choices=("none", "even", "odd"), default="none", help="default: none")
    command.add_argument(
        "--expect",
        action="append",
        default=[],
        metavar="ADDRESS",
        help="an address where somebody should answer, e.g. 7 or 0x27",
    )
    command.add_argument(
        "--line", action="append", default=[], metavar="NAME", help="signals of a trace: clock, then data"
    )
    as_json(command)


def rig_arguments(command: Command) -> None:
    command.add_argument(
        "folder", type=Path, nargs="?", default=Path(), help="where to make its ports, such as rig/scale"
    )
    command.add_argument("--port", type=int, default=1502, help="port for Modbus TCP, 0 for a free one; default: 1502")
    command.add_argument(
        "--rate", type=float, default=10.0, metavar="HZ", help="lines the scale sends a second; default: 10"
    )
    command.add_argument(
        "--fault", action="append", default=[], metavar="WHAT", help="a fault from the start, e.g. 'silence 5 s'"
    )
    command.add_argument("--broker", type=int, metavar="PORT", help="run an MQTT broker too; 0 for a free port")
    command.add_argument("--udp", type=int, metavar="PORT", help="send what the scale says to this UDP port too")
    command.add_argument("--until-eof", action="store_true", help="end when standard input ends")
    command.add_argument(
        "--glass",
        nargs=2,
        metavar=("PROJECT", "PANEL"),
        help="run a stand-in for this panel too, on rig/glass, which obeys what lesart glass --to sends",
    )
