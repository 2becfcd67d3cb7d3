"""All notes on a hook-up, each with a remedy that was tried."""

from __future__ import annotations

from collections.abc import Iterable

from lesart.core.notes import Note
from lesart.core.wire.faults.bus import inspect_bus
from lesart.core.wire.faults.currents import inspect_currents
from lesart.core.wire.faults.finding import Finding
from lesart.core.wire.faults.heat import inspect_heat
from lesart.core.wire.faults.levels import inspect_levels
from lesart.core.wire.faults.pins import inspect_pins
from lesart.core.wire.faults.proof import proven_note
from lesart.core.wire.faults.rails import inspect_rails
from lesart.core.wire.faults.unread import inspect_unread
from lesart.core.wire.hookup import Hookup


def find(hookup: Hookup) -> tuple[Finding, ...]:
    """All findings on a hook-up, without looking for remedies."""
    looks = (inspect_pins, inspect_unread, inspect_levels, inspect_currents, inspect_rails, inspect_heat, inspect_bus)
    return tuple(finding for look in looks for finding in look(hookup))


def inspect_hookup(hookup: Hookup) -> tuple[Note, ...]:
    """Notes on all findings. Every remedy that a key applies is proven to work."""
    found = find(hookup)
    return tuple(proven_note(each, hookup, found, find) for each in _in_pieces(found))


def _in_pieces(found: Iterable[Finding]) -> Iterable[Finding]:
    for finding in found:
        yield from (finding,) if finding.pieces is None else finding.pieces()
