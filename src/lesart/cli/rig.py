"""``lesart rig``: the stand-ins for devices, until they are stopped; faults are typed while they run."""

from __future__ import annotations

import argparse
import sys
import threading
import time
from pathlib import Path

from lesart.cli.ended import Ended, ended_by_signals
from lesart.cli.project import opened
from lesart.core.errors import LesartError, RequestError
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.live.rig.faults import FAULTS, USUAL_S
from lesart.live.rig.rig import TICK_S, Rig, ports_of
from lesart.live.rig.terminal import Terminal
from lesart.live.slip import frames
from lesart.study.glass import glass_of
from lesart.study.lit.lattice import lattice_of
from lesart.study.views import Glass
from lesart.study.wires.panel_stream import stream_of
from lesart.study.wires.stand_in import StandInPanel


def run(options: argparse.Namespace) -> int:
    """Offer the devices; each line of standard input makes a fault."""
    rig = Rig(
        options.folder / "rig",
        options.port,
        options.rate,
        with_bus=True,
        broker_port=options.broker,
        udp_port=options.udp,
    )
    shown = ShownGlass(rig.folder, Path(options.glass[0]), options.glass[1]) if options.glass else None
    faults = [_fault(each) for each in options.fault]
    with ended_by_signals() as ended:
        try:
            rig.start()
            print("\n".join(f"{name:<14}{where}" for name, where in ports_of(rig).items()))
            if shown is not None:
                shown.start()
                print(f"{'glass':<14}{shown.port.link}: {shown.panel.stream.panel.name}, frames by SLIP (RFC 1055)")
            print(f'Type a fault, like "silence 5" for 5 s: {", ".join(FAULTS)}. ctrl+c ends it.', flush=True)
            for name, lasts_s in faults:
                rig.fault(name, lasts_s)
            threading.Thread(target=_take_faults, args=(rig, ended, options.until_eof), daemon=True).start()
            ended.wait()
        finally:
            rig.stop()
            if shown is not None:
                shown.stop()
    return 0


QUIET_S = 0.15
"""After this long without a byte the picture is shown."""


class ShownGlass:
    """A stand-in for a panel on a pseudo-terminal; its picture is printed whenever it changes."""

    def __init__(self, folder: Path, project: Path, name: str) -> None:
        _, found = opened(project)
        if name not in found.panels:
            known = ", ".join(found.panels) or "none"
            raise RequestError(f'panel "{name}" is not in the project, which has {known}.')
        self.panel = StandInPanel(stream_of(found, name))
        self.port = Terminal(folder / "glass")
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="glass", daemon=True)

    def start(self) -> None:
        """Plug it in. Raises StorageError."""
        self.port.plug()
        self._thread.start()

    def stop(self) -> None:
        """Pull it out."""
        self._ended.set()
        if self._thread.is_alive():
            self._thread.join(timeout=5)
        self.port.pull()

    def _run(self) -> None:
        waiting, shown, last = b"", None, 0.0
        is_new = False
        while not self._ended.wait(TICK_S):
            data = self.port.hear()
            whole, waiting = frames(waiting, data)
            for each in whole:
                is_new |= self.panel.take(each)
            last = time.monotonic() if data else last
            if is_new and time.monotonic() - last > QUIET_S:
                is_new = False
                frame = self.panel.shown()
                if frame != shown:
                    shown = frame
                    print("\n".join(lit_rows(glass_of(self.panel.stream.panel, frame))), flush=True)


def lit_rows(glass: Glass) -> list[str]:
    """A panel in plain letters, two rows of dots per line."""
    lattice = lattice_of(glass)
    signs = {(False, False): " ", (True, False): "▀", (False, True): "▄", (True, True): "█"}
    return [
        "".join(
            signs[lattice.is_lit(x, y), y + 1 < lattice.height and lattice.is_lit(x, y + 1)]
            for x in range(lattice.width)
        )
        for y in range(0, lattice.height, 2)
    ]


def _take_faults(rig: Rig, ended: Ended, until_eof: bool) -> None:
    for line in sys.stdin:
        if line.strip():
            try:
                rig.fault(*_fault(line))
            except LesartError as error:
                print(f"lesart: {error}", file=sys.stderr)
    if until_eof:
        ended.tell()


def _fault(written: str) -> tuple[str, float]:
    """Make a fault from ``silence`` or ``silence 5`` or ``silence 5 s``. Raises RequestError."""
    name, _, lasts = written.strip().partition(" ")
    if name not in FAULTS:
        raise RequestError(f'"{name}" is not a fault of the rig; there are {", ".join(FAULTS)}.')
    if not lasts.strip():
        return name, USUAL_S
    return name, quantity_typed(lasts.strip(), parse_unit("s")).to(parse_unit("s"))
