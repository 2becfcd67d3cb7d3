"""Entries added and removed: a law, a reference at the cursor, a filter; and the units that follow from it."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from lesart.core import calm, law
from lesart.core.chain import Chain, compile_chain
from lesart.core.errors import RequestError, UnitError
from lesart.core.law.record import LawKind
from lesart.core.law.stage import stage_of
from lesart.core.notes import Key
from lesart.core.parameters import Parameter, read_table
from lesart.core.quantity import counted
from lesart.core.step import Step
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.part import Part
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.typed_values import kind_named, meant, named_by_kind, values_typed, written
from lesart.project.called import channel_called
from lesart.project.check import read_tables
from lesart.project.facts.home import with_homes
from lesart.project.facts.homes import homes_of
from lesart.project.model import Channel, Home, Project
from lesart.project.new.limits import round_limits
from lesart.project.tables.channels import law_stages, neighbours_of
from lesart.project.tables.variants import resolved
from lesart.project.text import Editor
from lesart.project.toml_values import value_at

LISTS: dict[Step | None, tuple[str, ...]] = {
    Step.LAW: ("law",),
    Step.TRUE: ("true", "references"),
    Step.CALM: ("calm",),
}
"""Keys of a step's entries in its channel."""
NEVER = "0 s"
"""A default time that means never, which is not worth mentioning."""
LAWS_OF, FILTERS_OF = "laws of ", "filters of "
"""Words before the name of a channel whose laws or filters are taken over."""


def list_of(step: Step | None, channel: Channel) -> Key:
    """The key of a step's entries. Raises RequestError where a step has none."""
    if step not in LISTS:
        raise RequestError("Nothing can be added or removed here; 1 Wire to 5 Calm, 7 Glass and 8 Pace have entries.")
    section, *rest = LISTS[step]
    return (*channel.key(section), *rest)


def add_law(
    editor: Editor,
    text: str,
    channel: Channel,
    typed: str,
    hookup: Hookup,
    values: Mapping[str, str] | None = None,
    readings: Mapping[str, float] | None = None,
    others_of: Callable[[LawKind], Mapping[str, str]] | None = None,
) -> Edited:
    """A law after the others, with values to start from. ``linear °C`` names the unit it leads to.

    ``values`` stand instead of those that it would start from; ``readings`` are those of channels that the laws read
    already, by which the new limits follow from the old ones; ``others_of`` says which
    channels give it its other inputs. Raises
    RequestError for a kind, a unit or a part of the hook-up that is not there.
    """
    before = end_of_laws(channel)
    fit = f"the leaf what fits lists those for {before}; arithmetic is typed like multiply by 2."
    kind, rest = kind_named(typed, law.KINDS, "law that Lesart has", fit)
    leads_to, given = _behind_law(kind, rest, before)
    key = list_of(Step.LAW, channel)
    index = len(value_at(read_tables(text), key) or [])
    said = {**given, **(values or {})}
    _reaches(kind, before, leads_to)
    others = {name: each for name, each in others_of(kind).items() if name not in said} if others_of else {}
    entry = {**_fresh(kind, before, leads_to), **_parts_for(kind, joined_first(hookup)), **others, **said}
    added = editor.with_entry(text, key, entry)
    taken = [each[-1] for each in homes_in(added, hookup) if each[:-1] == (*key, index) and each[-1] not in said]
    if taken:
        # What the project knows already is taken from there.
        added = editor.with_entry(text, key, {name: each for name, each in entry.items() if name not in taken})
    asked = [each.name for each in kind.parameters if each.default is None and each.name not in taken]
    text = _with_units(editor, added, channel, hookup, readings)
    told = "".join(f", {name} as {each} reads it" for name, each in others.items())
    return Edited(
        text,
        f"added: {kind.title}{told}",
        _first_value((*key, index), asked or [each.name for each in kind.parameters]),
    )


def _reaches(kind: LawKind, before: Unit, leads_to: Unit) -> None:
    """Raises RequestError where a law with start values of its own cannot lead to the named unit."""
    values, problems = read_table(kind.parameters, _fresh(kind, before, leads_to), "", also=("kind",))
    if leads_to == before or problems:
        return
    try:
        end = stage_of(kind.name, kind.build(values)).unit_out
    except (ValueError, AttributeError):
        return
    if not end.same_dimension(leads_to):
        raise RequestError(f"{kind.name} makes {end} of {before}, not {leads_to}.")


def add_laws_of(editor: Editor, text: str, channel: Channel, name: str, project: Project) -> Edited:
    """The text with another channel's laws added; units and limits follow. Raises RequestError where it has none."""
    text, count = _with_entries_of(editor, text, channel, name.strip(), project, Step.LAW)
    text = _with_units(editor, text, channel, project.hookup)
    return Edited(text, f"added: {counted(count, 'law')} of {name.strip()}", (*list_of(Step.LAW, channel), 0, "kind"))


def add_filters_of(editor: Editor, text: str, channel: Channel, name: str, project: Project) -> Edited:
    """The text with another channel's filters added. Raises RequestError where it has none."""
    text, count = _with_entries_of(editor, text, channel, name.strip(), project, Step.CALM)
    return Edited(
        text, f"added: {counted(count, 'filter')} of {name.strip()}", (*list_of(Step.CALM, channel), 0, "kind")
    )


def _with_entries_of(
    editor: Editor, text: str, channel: Channel, name: str, project: Project, step: Step
) -> tuple[str, int]:
    section = LISTS[step][0]
    others = [each for each, table in project.tables["channels"].items() if table.get(section) and each != channel.name]
    name = channel_called(name, others) or name
    if name not in others:
        hint = meant(name, others) or f"there are {', '.join(others) or 'none'}."
        raise RequestError(f'"{name}" is not another channel with {step.shown} entries; {hint}')
    entries = project.tables["channels"][name][section]
    for entry in entries:
        text = editor.with_entry(text, list_of(step, channel), entry)
    return text, len(entries)


def joined_first(hookup: Hookup) -> dict[str, Part]:
    """Parts by name, those with a connection through them first: an unconnected resistor is not half of a divider."""
    used = {join.through for join in hookup.joins}
    return dict(sorted(hookup.parts.items(), key=lambda each: each[0] not in used))


def homes_in(text: str, hookup: Hookup) -> dict[Key, Home]:
    """Facts of a project's text that have a home elsewhere."""
    return homes_of(resolved(read_tables(text)), hookup)


def _first_value(entry: Key, names: Sequence[str]) -> Key | None:
    """What to select once an entry is added: nothing for one without values."""
    return (*entry, names[0]) if names else None


def _behind_law(kind: LawKind, rest: str, before: Unit) -> tuple[Unit, dict[str, str | int | bool]]:
    """The wanted unit and values after a law's name: ``°C, beta = 3950 K``, ``12, 3.3 V``.

    Raises RequestError for anything else.
    """
    rest = _with_signs(kind, rest)
    if re.match(r"[-−+.]?\d(?!/)", rest.strip()):
        return before, values_typed(kind.parameters, (), named_by_kind(kind.parameters, rest), kind.name)
    unit, _, more = rest.partition(",") if "=" not in rest.partition(",")[0] else ("", "", rest)
    try:
        leads_to = parse_unit(unit) if unit.strip() else before
    except UnitError as error:
        values = f", or values like {kind.parameters[0].name} = …" if kind.parameters else ""
        said = f"after {kind.name} comes the unit it leads to{values}"
        raise RequestError(f"{str(error).rstrip('.')}; {said}.") from error
    return leads_to, values_typed(kind.parameters, (), more, kind.name)


def _with_signs(kind: LawKind, rest: str) -> str:
    """``sea level 1013 hPa`` and ``bits 12 reference 3.3 V`` with a sign after each name and a comma before it."""
    called = {
        name.lower(): each.name
        for each in kind.parameters
        for name in (each.name, each.name.replace("_", " "), each.title)
    }
    names = "|".join(re.escape(name) for name in sorted(called, key=len, reverse=True))
    if "=" in rest or not names:
        return rest
    said = rf"(?:^|[\s,;]+)(?:(?:and|with|at)\s+)?(?:the\s+)?(?P<name>{names})\s+(?:(?:of|is|at)\s+)?(?=[-−+.]?\d)"
    return re.sub(said, lambda found: f", {called[found['name'].lower()]} = ", rest, flags=re.IGNORECASE).lstrip(", ")


def _fresh(kind: LawKind, before: Unit, leads_to: Unit) -> dict[str, Any]:
    """The values that a new law starts from."""
    usual = {parameter.name: parameter.default for parameter in kind.parameters if parameter.default is not None}
    return {"kind": kind.name, **usual, **kind.start(before, leads_to)}


def fitting_kinds(channel: Channel, parts: Mapping[str, Part]) -> tuple[list[LawKind], list[LawKind]]:
    """Laws that accept the unit in which those of a channel end; and those that would if the hook-up had their part."""
    fit: list[LawKind] = []
    missing: list[LawKind] = []
    before = end_of_laws(channel)
    for kind in law.KINDS.values():
        values, problems = read_table(kind.parameters, _fresh(kind, before, channel.unit), "", also=("kind",))
        wanted = [parameter for parameter in kind.parameters if parameter.kind == "part"]
        there = {each.name: _first_part(each, parts) for each in wanted}
        if problems and not wanted:
            continue
        try:
            usual = {each.name: there[each.name] or _stand_in(each) for each in wanted}
            unit_in = stage_of(kind.name, kind.build({**values, **usual})).unit_in
        except ValueError:
            continue
        if unit_in.same_dimension(before):
            (fit if all(there.values()) else missing).append(kind)
    return fit, missing


def _first_part(parameter: Parameter, parts: Mapping[str, Part]) -> Part | None:
    return next((part for part in parts.values() if part.kind.name in parameter.choices), None)


def _stand_in(parameter: Parameter) -> Part:
    """A part of the kind that a law needs, to see which unit the law would accept."""
    kind = PARTS[parameter.choices[0]]
    return Part("", kind, {each.name: 1.0 for each in kind.parameters})


def _parts_for(kind: LawKind, parts: Mapping[str, Part]) -> dict[str, str]:
    """For each parameter that names a part, the first that fits. Raises RequestError where the hook-up has none."""
    found = {}
    for parameter in kind.parameters:
        if parameter.kind == "part":
            fit = _first_part(parameter, parts)
            if fit is None:
                wanted = " or ".join(parameter.choices)
                raise RequestError(f"{kind.name} takes its values from a {wanted} of the hook-up; add one in 1 Wire.")
            found[parameter.name] = fit.name
    return found


def add_filter(editor: Editor, text: str, channel: Channel, typed: str, interval_s: float) -> Edited:
    """A filter after the others, with the values typed after its name; samples come every ``interval_s``.

    Raises RequestError for an unknown kind or a value that cannot be.
    """
    kind, rest = kind_named(typed, calm.KINDS, "filter that Lesart has")
    given = values_typed(kind.parameters, kind.takes, rest, kind.name, channel.unit)
    key = list_of(Step.CALM, channel)
    index = len(value_at(read_tables(text), key) or [])
    entry: dict[str, Any] = {"kind": kind.name}
    ends = {"lowest": channel.lowest, "highest": channel.highest}
    fresh = kind.start(channel.unit, interval_s)
    for parameter in kind.parameters:
        if parameter.name in given:
            entry[parameter.name] = given[parameter.name]
        elif parameter.name in fresh:
            entry[parameter.name] = fresh[parameter.name]
        elif parameter.default is None:
            entry[parameter.name] = written(ends[parameter.name], channel.unit)
        else:
            entry[parameter.name] = parameter.default
    added = editor.with_entry(text, key, entry)
    # Usual values are said too: nobody typed them.
    said = (f"{each.title} {entry[each.name]}" for each in kind.parameters if entry[each.name] != NEVER)
    told = ", ".join([kind.title, *said])
    return Edited(added, f"added: {told}", _first_value((*key, index), [each.name for each in kind.parameters]))


def take_away(
    editor: Editor, text: str, channel: Channel, step: Step | None, selected: Key | None, hookup: Hookup
) -> Edited:
    """The text without the entry of the selected value. Raises RequestError where it belongs to none."""
    key = list_of(step, channel)
    alarms: Key = channel.key("alarms")
    if step == Step.CALM and selected is not None and selected[: len(alarms)] == alarms:
        key = alarms
    if selected is None or selected[: len(key)] != key or len(selected) <= len(key):
        raise RequestError("Select a value of what to remove; tab goes to the values.")
    index = selected[len(key)]
    entry = value_at(read_tables(text), (*key, index))
    if not isinstance(index, int) or entry is None:
        raise RequestError("The selected entry no longer exists.")
    left = editor.without(text, (*key, index))
    if channel.variant:
        # Having none differs from taking those of its channel.
        left = editor.with_none(left, key)
    if step == Step.LAW:
        left = _with_units(editor, left, channel, hookup)
    what = entry.get("kind", f"alarm {entry.get('name')}" if key == alarms else f"reference {index + 1}")
    return Edited(left, f"removed: {what}")


def moved(
    editor: Editor,
    text: str,
    channel: Channel,
    step: Step | None,
    selected: Key | None,
    by: int,
    hookup: Hookup,
) -> Edited:
    """The text with the law or filter of the selected value moved by one place. Raises RequestError."""
    key = list_of(step, channel)
    if step == Step.TRUE or selected is None or selected[: len(key)] != key or len(selected) <= len(key):
        raise RequestError("Select a value of the law or filter that is to move; tab goes to the values.")
    index = selected[len(key)]
    entry = value_at(read_tables(text), (*key, index))
    if not isinstance(index, int) or entry is None:
        raise RequestError("The selected entry no longer exists.")
    changed = editor.with_neighbours_changed(text, (*key, index), by)
    if step == Step.LAW:
        changed = _with_units(editor, changed, channel, hookup)
    there = (*key, index + by, *selected[len(key) + 1 :])
    return Edited(changed, f"moved {'up' if by < 0 else 'down'}: {entry['kind']}", there)


def end_of_laws(channel: Channel) -> Unit:
    """The unit in which the laws end."""
    laws = [link.stage.unit_out for link in channel.chain.links if link.place.startswith("law[")]
    return laws[-1] if laws else channel.unit_raw


def _with_units(
    editor: Editor,
    text: str,
    channel: Channel,
    hookup: Hookup,
    readings: Mapping[str, float] | None = None,
) -> str:
    """The text after laws changed: where they measure something else now, the channel's unit and limits follow."""
    if channel.variant:
        return text  # a variant reads in the unit of its channel; one that does not is refused by the check
    entered = resolved(read_tables(text))
    tables = with_homes(entered, homes_of(entered, hookup))["channels"]
    table = tables[channel.name]
    stages = law_stages(table, hookup.parts)
    end = stages[-1].unit_out if stages else channel.unit_raw
    if end.same_dimension(channel.unit):
        return text
    laws = [(Step.LAW, f"law[{index}]", stage) for index, stage in enumerate(stages)]
    chain = compile_chain(channel.unit_raw, laws, end, neighbours_of(tables))
    last = table["law"][-1] if stages else {}
    ends = law.KINDS[last["kind"]].ends(last) if last else None
    low, high = (
        (f"{ends[0]:g}", f"{ends[1]:g}")
        if ends
        else _limits(channel.chain.at(readings or {}), chain.at(readings or {}), channel)
    )
    place: Key = ("channels", channel.name)
    text = editor.with_value(text, (*place, "unit"), str(end))
    text = editor.with_value(text, (*place, "lowest"), f"{low} {end}".removesuffix(" 1"))
    text = editor.with_value(text, (*place, "highest"), f"{high} {end}".removesuffix(" 1"))
    if value_at(table, ("fit", "unit_text")) == channel.unit.symbol:
        text = editor.with_value(text, (*place, "fit", "unit_text"), "" if end.symbol == "1" else str(end)[:8])
    return text


def _limits(before: Chain, chain: Chain, channel: Channel) -> tuple[str, str]:
    """The channel's range: the same raw values as before, through the new laws."""
    ends = [before.raw_for(end) for end in (channel.lowest, channel.highest)]
    read = [chain.steady(raw)[-1].x[0] if chain.links else raw for raw in ends]
    known = sorted(float(value) for value in read if np.isfinite(value))
    return round_limits(known[0], known[1], room=0.0) if len(known) == 2 and known[0] < known[1] else ("0", "100")
