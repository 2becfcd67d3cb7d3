"""The decimals that a field deserves: by resolution and by uncertainty, in the field's unit."""

from __future__ import annotations

from lesart.core.errors import RequestError
from lesart.core.fit.field import Field
from lesart.core.fit.inspect import honest_decimals
from lesart.core.notes import Key
from lesart.desk.state import State
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.sureness import Sureness, sureness_in_the_middle

WORD = "honest"
"""Word typed instead of a number of decimals."""
MOST = 9
"""Decimals without a limit."""


def decimals_worth(field: Field, sure: Sureness) -> int:
    """The smaller of the decimals by resolution and by uncertainty."""
    scale = float(field.unit_in.scale / field.unit_shown.scale)
    return honest_decimals(max(sure.finest, sure.off or 0.0) * scale)


def typed_or_honest(state: State, bench: Bench, key: Key, typed: str) -> str:
    """What was typed, or the honest number of decimals for that word. Raises RequestError, CaptureError."""
    if key[-1] != "decimals" or typed.strip().lower() != WORD:
        return typed
    name = key[1] if key[0] == "channels" else value_at(state.project.tables, (*key[:-1], "channel"))
    channel = state.chosen if name == state.channel else state.project.channels[str(name)]
    sure = sureness_in_the_middle(state.project, channel, bench)
    worth = MOST if sure is None else decimals_worth(channel.field, sure)
    if worth >= MOST:
        raise RequestError(f"{name}: neither its resolution nor its uncertainty is known; write a number of decimals.")
    return str(worth)
