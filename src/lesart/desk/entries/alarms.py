"""An alarm added to a channel, with what was said about it."""

from __future__ import annotations

from lesart.core.calm.alarm import ABOVE
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Key
from lesart.core.quantity import Quantity
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.typed_values import written
from lesart.project.check import read_tables
from lesart.project.model import Channel
from lesart.project.text import Editor
from lesart.project.toml_values import value_at


@dataclass(frozen=True)
class AlarmSaid:
    """``limit`` as typed; ``hysteresis``, ``off``, the value at which it clears, ``least`` and ``name`` are empty where
    not stated."""

    side: str
    limit: str
    hysteresis: str = ""
    off: str = ""
    least: str = ""
    name: str = ""


def add_alarm(editor: Editor, text: str, channel: Channel, said: AlarmSaid) -> Edited:
    """``above 43 kg`` or ``below 5 kg``, by default with a hysteresis of a hundredth of the channel's range.

    Raises RequestError with what would be right.
    """
    try:
        at = quantity_typed(said.limit, channel.unit)
        at.to(channel.unit)
        back = _hysteresis(channel, said, at)
        least = quantity_typed(said.least, parse_unit("s")) if said.least else None
    except (QuantityError, UnitError) as error:
        raise RequestError(f"{str(error).rstrip('.')}; write it like alarm above 10 {channel.unit}.") from error
    key: Key = channel.key("alarms")
    index = len(value_at(read_tables(text), key) or [])
    entry = {
        "name": said.name or ("high" if said.side == ABOVE else "low"),
        "side": said.side,
        "limit": str(at).replace("−", "-"),
        "hysteresis": back,
        "least": "0 s" if least is None else str(least),
    }
    more = f", hysteresis {back}" if said.hysteresis or said.off else ""
    more += f", after {least}" if least is not None else ""
    return Edited(editor.with_entry(text, key, entry), f"added: alarm {said.side} {at}{more}", (*key, index, "limit"))


def _hysteresis(channel: Channel, said: AlarmSaid, at: Quantity) -> str:
    """The hysteresis as stated, or from where it clears. Raises QuantityError, UnitError and RequestError."""
    step = channel.unit.step
    if said.hysteresis:
        each = quantity_typed(said.hysteresis, channel.unit)
        return written(float(Quantity(each.value, each.unit.step).to(step)), step)
    if not said.off:
        return written(float(f"{(channel.highest - channel.lowest) / 100:.1g}"), step)
    off = float(quantity_typed(said.off, channel.unit).to(channel.unit))
    back = (float(at.to(channel.unit)) - off) * (1 if said.side == ABOVE else -1)
    if back < 0:
        raise RequestError(f"An alarm {said.side} {at} cannot go off at {said.off}: that is where it is on.")
    return written(float(f"{back:.9g}"), step)
