"""Files of the project's folder, serial ports and tasks, as offers in Raw and Pace."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from os.path import exists, isfile
from pathlib import Path

from lesart.core.raw.decode import KINDS as DECODERS
from lesart.core.raw.lines.line import LINES
from lesart.desk.state import State
from lesart.project.new.source import FORMATS
from lesart.study.views import Offer, Offers

CAPTURES = tuple(FORMATS)
MOST = 60
"""Most files listed."""
RIG = ("scale", "mast")
"""Ports of the rig, where it runs in the project's folder."""


def files_in(folder: Path, endings: Iterable[str]) -> list[str]:
    """Files of the folder with one of the extensions, as they are typed: ``captures/bus.vcd``; the nearest first."""
    wanted = tuple(endings)
    found = [path for path in sorted(folder.glob("*")) if isfile(path)]
    found += [path for path in sorted(folder.glob("*/*")) if isfile(path) and not path.parent.name.startswith(".")]
    return [str(path.relative_to(folder)) for path in found if path.suffix.lower() in wanted][:MOST]


def ports_in(folder: Path) -> list[tuple[str, str]]:
    """Serial ports of this computer and of a rig, each with its description."""
    from serial.tools.list_ports import comports

    found = [(f"rig/{name}", "the rig's") for name in RIG if exists(folder / "rig" / name)]
    return [*found, *((each.device, each.description or "serial port") for each in comports())]


def lines_and_files(state: State, folder: Path) -> Offers:
    """Offers after ``<`` in Raw: captures that nothing reads yet, and lines."""
    used = {source.capture for source in state.project.sources.values()}
    files = [name for name in files_in(folder, CAPTURES) if name not in used]
    traces = [name for name in files if name.endswith(".vcd")]
    return {
        "<": (*(Offer(name, _says(name), name not in traces) for name in files), *_lines(folder)),
        " as ": tuple(Offer(kind.name, kind.says) for kind in DECODERS.values()) if traces else (),
    }


def _says(name: str) -> str:
    return "a trace of edges; as and a decoder follow" if name.endswith(".vcd") else "a capture"


def _lines(folder: Path) -> Iterator[Offer]:
    for port, says in ports_in(folder):
        yield Offer(f"text line {port}", f"numbers in lines of text; {says}")
    for kind in LINES.values():
        whole = kind.name == "this computer"
        yield Offer(kind.name if whole else f"{kind.name} ", kind.says if whole else f"{kind.says}; then where", whole)


def tasks(state: State, buses: Iterable[str]) -> Iterator[Offer]:
    """Ways to type a task, with a free name."""
    name = next(each for each in ("log", *(f"log {number}" for number in range(2, 999))) if not _taken(state, each))
    yield Offer(f"{name} every 5 s takes 40 ms", "in the loop, holding up all else meanwhile")
    yield Offer(f"{name} every 100 ms takes 20 µs by interrupt", "breaks in on all else")
    yield Offer(f"{name} every 1 s takes 5 ms in background", "whenever there is time")
    for bus in buses:
        yield Offer(f"{name} every 1 s sends 32 bytes over {bus}", "takes as long as its bytes do")


def _taken(state: State, name: str) -> bool:
    return name in state.project.loop.overruled or name in state.project.loop.usual
