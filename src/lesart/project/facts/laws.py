"""Facts for laws: gate and timer from the decoder of their source, supply and side from the hook-up, the reference from
the board that reads the voltage."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from lesart.core.law.converter import CONVERTER
from lesart.core.law.divider import HALF, RATIOMETRIC, TO_GROUND, TO_SUPPLY
from lesart.core.law.timed import GATE, TICKS
from lesart.core.notes import Key
from lesart.core.raw.decode import KINDS as DECODERS
from lesart.core.raw.decode.pulses import GATE as GATE_COUNT
from lesart.core.raw.decode.timer import TIMER
from lesart.core.wire.entry import written
from lesart.core.wire.hookup import End, Hookup
from lesart.project.facts.home import Found, LawPlace, laws_in
from lesart.project.facts.rails import (
    feeding,
    is_ground,
    rail_home,
    rail_of_sensor,
    reading_board,
    reference_home,
    resistor_ends,
    sensors_at,
)
from lesart.project.facts.same import is_same
from lesart.project.model import Home, Table

OF_DECODERS = {
    GATE.name: (GATE_COUNT.name, "count", ("gate",)),
    TICKS.name: (TIMER.name, "ticks", ("clock", "prescaler", "bits")),
}
"""Laws of decoded counts: decoder, column, and the values that they take from it."""
REFERENCE = next(each for each in CONVERTER.parameters if each.name == "reference")
THERMISTOR, AT = "thermistor by beta", "25 °C"


def homes_of_laws(tables: Table, hookup: Hookup) -> Found:
    """Homes for values of every law."""
    for place in laws_in(tables):
        kind = str(place.entry.get("kind"))
        if kind in OF_DECODERS and place.index == 0:
            yield from _of_decoder(tables, place, *OF_DECODERS[kind])
        elif kind == HALF.name:
            yield from _of_half(hookup, place)
        elif kind == RATIOMETRIC.name:
            yield from _of_ratiometric(hookup, place)
        elif kind == CONVERTER.name and place.index == 0:
            yield from _of_converter(hookup, place)
        elif kind == "bridge converter":
            yield from _of_bridge(hookup, place)
        elif kind == THERMISTOR:
            yield from _of_thermistor(hookup, place)


def _of_decoder(tables: Table, place: LawPlace, decoder: str, column: str, names: tuple[str, ...]) -> Found:
    """Homes for laws of decoded counts: the gate, or clock, was fixed when counting."""
    source = str(place.table.get("source"))
    decode = _table(_table(tables.get("sources")).get(source)).get("decode")
    if not isinstance(decode, dict) or decode.get("kind") != decoder or place.table.get("column") != column:
        return
    usual = {parameter.name: parameter.default for parameter in DECODERS[decoder].parameters}
    for name in names:
        written_ = decode.get(name, usual[name])
        if isinstance(written_, str | int):
            key: Key = ("sources", str(source), "decode", name)
            yield (*place.key, name), Home(key, written_, f"the decoder of {source}", same=True)


def _table(found: Any) -> dict[str, Any]:
    return found if isinstance(found, dict) else {}


def _of_half(hookup: Hookup, place: LawPlace) -> Found:
    """Homes for a half of a divider: the sensor is opposite its resistor, and the rail at the far end feeds both."""
    resistor = str(place.entry.get("part"))
    ends = resistor_ends(hookup, resistor) if resistor in hookup.parts else None
    rail = None
    if ends is not None:
        tap, end = ends
        side = TO_SUPPLY if is_ground(hookup, end) else TO_GROUND
        leads = f"{resistor}, which leads to {end}"
        yield (*place.key, "sensor"), Home(("parts", resistor, "resistance"), side, leads)
        rail = end if side == TO_GROUND else next(_far_rails(hookup, tap), None)
    found = rail_home(hookup, rail) if rail is not None and not is_ground(hookup, rail) else None
    found = found or _reference_before(hookup, place)
    if found is not None:
        yield (*place.key, "supply"), found


def _of_ratiometric(hookup: Hookup, place: LawPlace) -> Found:
    """Homes for a ratiometric sensor: its supply, else the converter's reference."""
    part = str(place.table.get("part") or "")
    found = feeding(hookup, part) if part in hookup.parts else None
    found = found or _reference_before(hookup, place)
    if found is not None:
        yield (*place.key, "supply"), found


def _far_rails(hookup: Hookup, tap: End) -> Iterator[End]:
    for sensor in sensors_at(hookup, tap):
        rail = rail_of_sensor(hookup, sensor, tap)
        if rail is not None:
            yield rail


def _reference_before(hookup: Hookup, place: LawPlace) -> Home | None:
    """The supply of a divider without a hook-up: usually the reference of the converter before it."""
    for index, entry in enumerate(place.laws[: place.index]):
        if entry.get("kind") == CONVERTER.name:
            own = entry.get("reference")
            home = _reference(hookup, place)
            if not isinstance(own, str):
                return home
            key = (*place.key[:-1], index, "reference")
            one_with = home.name if home is not None and is_same(REFERENCE, own, home) else ""
            return Home(key, own, f"the converter, law {index + 1}", one_with, certain=False)
    return None


def _reference(hookup: Hookup, place: LawPlace) -> Home | None:
    board = _board(hookup, place)
    return reference_home(hookup, board) if board is not None else None


def _board(hookup: Hookup, place: LawPlace) -> str | None:
    """The board that the channel's part leads to; else that at the tap of a half that its laws name."""
    board = reading_board(hookup, str(place.table.get("part") or ""))
    for entry in place.laws if board is None else ():
        ends = resistor_ends(hookup, str(entry.get("part"))) if entry.get("kind") == HALF.name else None
        if ends is not None and "analog in" in hookup.pin(ends[0]).roles:
            return ends[0].part
    return board


def _of_converter(hookup: Hookup, place: LawPlace) -> Found:
    board = _board(hookup, place)
    if board is None:
        return
    reference = reference_home(hookup, board)
    if reference is not None:
        yield (*place.key, "reference"), reference
    bits = int(hookup.parts[board].values.get("converter_bits") or 0)
    if bits >= 4:
        yield (
            (*place.key, "bits"),
            Home(("parts", board, "converter_bits"), bits, f"the converter of {board}", same=True),
        )


def _of_bridge(hookup: Hookup, place: LawPlace) -> Found:
    """Homes for a bridge: its amplifier's supply is both excitation and reference, so that the ratio holds."""
    part = hookup.parts.get(str(place.table.get("part") or ""))
    feeds = part is not None and any("excitation +" in pin.roles for pin in part.kind.pins)
    rail = feeding(hookup, part.name) if part is not None and feeds else None
    for name, other in (("excitation", "reference"), ("reference", "excitation")):
        if rail is not None:
            # Only the ratio of both matters: another voltage for both gives the same reading.
            both = {name, other} <= place.entry.keys()
            same = both and place.entry[name] == place.entry[other]
            yield (
                (*place.key, name),
                Home(rail.key, rail.written, rail.says, rail.one_with, rail.within, compared=not same),
            )
        elif isinstance(place.entry.get(other), str):
            key = (*place.key, other)
            yield (*place.key, name), Home(key, place.entry[other], f"its own {other}", compared=False)


def _of_thermistor(hookup: Hookup, place: LawPlace) -> Found:
    """Homes for a thermistor: its nominal resistance and temperature."""
    part = hookup.parts.get(str(place.table.get("part") or ""))
    if part is None or part.kind.name != "thermistor" or place.entry.get("at", AT) != AT:
        return
    ohm = written(part.value("resistance"), "Ω")
    yield (*place.key, "resistance"), Home(("parts", part.name, "resistance"), ohm, part.name, same=True)
