"""``lesart rig``: the stand-ins for devices, until they are stopped; faults are typed while they run."""

from __future__ import annotations

import argparse
import signal
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from lesart.core.errors import LesartError, RequestError
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.live.rig.faults import FAULTS, USUAL_S
from lesart.live.rig.rig import Rig, ports_of


def run(options: argparse.Namespace) -> int:
    """Offer the devices; one fault a line of the standard input makes one."""
    rig = Rig(options.folder / "rig", options.port, options.rate)
    faults = [_fault(each) for each in options.fault]
    ended = threading.Event()
    with _ended_by_signals(ended):
        try:
            rig.start()
            print("\n".join(f"{name:<14}{where}" for name, where in ports_of(rig).items()))
            print(f'Type a fault, as "silence 5" for 5 s: {", ".join(FAULTS)}. ctrl+c ends it.', flush=True)
            for name, lasts_s in faults:
                rig.fault(name, lasts_s)
            threading.Thread(target=_take_faults, args=(rig, ended, options.until_eof), daemon=True).start()
            ended.wait()
        finally:
            rig.stop()
    return 0


@contextmanager
def _ended_by_signals(ended: threading.Event) -> Iterator[None]:
    """However it is ended, the links to its ports go with it."""
    before = {number: signal.signal(number, lambda *_: ended.set()) for number in (signal.SIGTERM, signal.SIGINT)}
    try:
        yield
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)


def _take_faults(rig: Rig, ended: threading.Event, until_eof: bool) -> None:
    for line in sys.stdin:
        if line.strip():
            try:
                rig.fault(*_fault(line))
            except LesartError as error:
                print(f"lesart: {error}", file=sys.stderr)
    if until_eof:
        ended.set()


def _fault(written: str) -> tuple[str, float]:
    """``silence`` or ``silence 5`` or ``silence 5 s``. Raises RequestError."""
    name, _, lasts = written.strip().partition(" ")
    if name not in FAULTS:
        raise RequestError(f'"{name}" is not a fault of the rig; there are {", ".join(FAULTS)}.')
    if not lasts.strip():
        return name, USUAL_S
    return name, parse_quantity(lasts.strip(), parse_unit("s")).to(parse_unit("s"))
