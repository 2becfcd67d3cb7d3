"""Filters proposed for a wanted noise, as an edit that undo takes back."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core import calm
from lesart.core.calm.noise import noise_in
from lesart.core.calm.noise_left import noise_factor
from lesart.core.calm.propose import SMOOTHING, Behind, Entry, propose
from lesart.core.calm.record import FilterEntry, total_cost
from lesart.core.chain import Chain, Link
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Key
from lesart.core.parameters import read_table
from lesart.core.quantity import format_quantity
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.step import Step
from lesart.core.units import Unit
from lesart.desk.entries.edit_result import Edited
from lesart.desk.state import State
from lesart.project.check import read_tables
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.intervals import filters_interval_s

MOST_TRIED = 20_000
"""Samples on which proposals are tried: enough to measure noise, few enough to try sixty of them."""
BEHIND = ("hold", "deadband", "settling gate", "decimate")
"""Filters that follow smoothing."""
NO_LIMIT_S = 1e9


def proposed(editor: Editor, text: str, state: State, bench: Bench, typed: str) -> Edited:
    """``noise 0.02 kg``: the cheapest filters that leave no more, as late as the channel allows.

    They replace the present smoothing. Raises RequestError where none suffices, with how close it comes.
    """
    channel, project = state.chosen, state.project
    wanted = _wanted(typed, channel.unit.step)
    key: Key = channel.key("calm")
    now: list[Entry] = list(value_at(project.tables, key) or [])
    before = bench.run(project, channel).blocks[Step.TRUE][-MOST_TRIED:]
    interval = filters_interval_s(project, bench, channel)
    most_lag = channel.most_lag_s or NO_LIMIT_S

    line = bench.on_a_line(channel, before)
    middle, noise = 0.5 * (channel.lowest + channel.highest), noise_in(line)

    def through(entries: Sequence[Entry]) -> Behind:
        chain, filters = _chain(_with(now, entries), channel.unit)
        after = chain.run(chain.initial(), before)[1][-1] if chain.links else before
        factor = noise_factor(filters, chain, interval, middle, noise)
        return Behind(bench.on_a_line(channel, after), factor, total_cost(filters, interval).lag_s)

    found = propose(line, through, wanted, most_lag, _circle(now))
    left = format_quantity(found.tried.noise, channel.unit.step, 2)
    if not found.found:
        allowed = f" within {channel.most_lag_s:g} s" if channel.most_lag_s else ""
        raise RequestError(f"{channel.name}: no filter Lesart tries leaves so little{allowed}; the least is {left}.")
    text = _replaced(editor, text, key, found.tried.entries)
    words = " and ".join(_words(entry) for entry in found.tried.entries) or "no filter"
    return Edited(text, f"{words}: {left} of noise, {found.tried.lag_s:.3g} s late", (*key, 0))


def _circle(now: Sequence[Entry]) -> Entry | None:
    """The circle of the channel's circular mean, if any."""
    found = next((entry for entry in now if entry["kind"] == "circular mean"), None)
    return {name: found[name] for name in ("lowest", "highest")} if found else None


def _wanted(typed: str, unit: Unit) -> float:
    try:
        wanted = quantity_typed(typed, unit).difference_in(unit)
        if not wanted > 0:
            raise QuantityError(f'"{typed}" is not a noise above 0')
    except (QuantityError, UnitError) as error:
        raise RequestError(f"{str(error).rstrip('.')}; write it like noise 0.02 {unit}.") from error
    return wanted


def _with(now: Sequence[Entry], entries: Sequence[Entry]) -> list[Entry]:
    """The filters that do not smooth, with the new entries before those that follow smoothing."""
    left = [entry for entry in now if entry["kind"] not in SMOOTHING]
    place = next((index for index, entry in enumerate(left) if entry["kind"] in BEHIND), len(left))
    return [*left[:place], *entries, *left[place:]]


def _chain(entries: Sequence[Entry], unit: Unit) -> tuple[Chain, tuple[FilterEntry, ...]]:
    filters, links = [], []
    for index, entry in enumerate(entries):
        kind = calm.KINDS[entry["kind"]]
        values, _ = read_table(kind.parameters, entry, "", also=("kind",))
        filters.append(FilterEntry(kind, values, entry))
        links.append(Link(Step.CALM, f"calm[{index}]", kind.build(values, unit)))
    return Chain(unit, unit, tuple(links)), tuple(filters)


def _replaced(editor: Editor, text: str, key: Key, entries: Sequence[Entry]) -> str:
    """The text with the entries in place of those that smooth, other lines kept."""
    now = value_at(read_tables(text), key) or []
    for index in reversed(range(len(now))):
        if now[index]["kind"] in SMOOTHING:
            text = editor.without(text, (*key, index))
    left = value_at(read_tables(text), key) or []
    behind = sum(1 for entry in left if entry["kind"] in BEHIND)
    for entry in entries:
        text = editor.with_entry(text, key, entry)
        last = len(value_at(read_tables(text), key)) - 1
        for step in range(behind):
            text = editor.with_neighbours_changed(text, (*key, last - step), -1)
    return text


def _words(entry: Entry) -> str:
    return f"{entry['kind']} {entry.get('samples', entry.get('weight'))}"
