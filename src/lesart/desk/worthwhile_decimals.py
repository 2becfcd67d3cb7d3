"""How many decimals a field is worth: what can be told apart, and how sure it is, in the field's unit."""

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
"""Typed instead of a number of decimals."""
MOST = 9
"""So many that nothing limits them."""


def decimals_worth(field: Field, sure: Sureness) -> int:
    """The fewer of those that can be told apart and those that are sure."""
    scale = float(field.unit_in.scale / field.unit_shown.scale)
    return honest_decimals(max(sure.finest, sure.off or 0.0) * scale)


def typed_or_honest(state: State, bench: Bench, key: Key, typed: str) -> str:
    """What was typed; for decimals the honest number, where that word was. Raises RequestError, CaptureError."""
    if key[-1] != "decimals" or typed.strip().lower() != WORD:
        return typed
    name = key[1] if key[0] == "channels" else value_at(state.project.tables, (*key[:-1], "channel"))
    channel = state.chosen if name == state.channel else state.project.channels[str(name)]
    sure = sureness_in_the_middle(state.project, channel, bench)
    worth = MOST if sure is None else decimals_worth(channel.field, sure)
    if worth >= MOST:
        raise RequestError(f"{name}: neither its resolution nor its uncertainty is known; write a number of decimals.")
    return str(worth)
