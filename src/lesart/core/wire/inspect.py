"""All notes on a hook-up."""

from __future__ import annotations

from lesart.core.notes import Note
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.inspect_bus import inspect_bus
from lesart.core.wire.inspect_currents import inspect_currents
from lesart.core.wire.inspect_levels import inspect_levels
from lesart.core.wire.inspect_pins import inspect_pins


def inspect_hookup(hookup: Hookup) -> tuple[Note, ...]:
    """What cannot work in it, and what may not."""
    return (*inspect_pins(hookup), *inspect_levels(hookup), *inspect_currents(hookup), *inspect_bus(hookup))
