"""A recipe applied: laws, parts, range, filters to start with and an honest field of the chosen channel, as one
edit."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.calm.record import total_cost
from lesart.core.chain import Stage
from lesart.core.errors import LesartError, RequestError
from lesart.core.fit.inspect import COARSE, honest_decimals, width_that_shows
from lesart.core.law import KINDS as LAWS
from lesart.core.law.divider import TO_SUPPLY
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.notes import Key, Written
from lesart.core.parameters import read_table
from lesart.core.quantity import counted, parse_quantity
from lesart.core.raw.spelled.unit_said import unit_in_name
from lesart.core.step import Step
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.part import Part
from lesart.desk.entries.chain import homes_in
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.recipes.converted import AsRead, as_read, begins_with_converter, with_supply
from lesart.desk.entries.recipes.hooked import turned, with_joined
from lesart.desk.entries.recipes.kinds.volts import PLAIN_VOLTAGE
from lesart.desk.entries.recipes.of_frequency import begun_with_hertz
from lesart.desk.entries.recipes.parts_given import Given, parts_given
from lesart.desk.entries.recipes.phrases.counts_said import bits_with_sign
from lesart.desk.entries.recipes.phrases.phrase import said_in
from lesart.desk.entries.recipes.reached import is_read, where_it_ends
from lesart.desk.entries.recipes.recipe import Recipe, Said, Sketch, Table
from lesart.desk.entries.recipes.which import recipe_of, usual_of
from lesart.desk.entries.said.patterns import NO_UNIT
from lesart.desk.state import State
from lesart.desk.worthwhile_decimals import MOST
from lesart.project.assumed import ASSUMED, joined, with_said
from lesart.project.check import check_project
from lesart.project.model import Channel, Project
from lesart.project.new.limits import round_limits, within_reach
from lesart.project.text import Editor
from lesart.study.bench import Bench
from lesart.study.intervals import filters_interval_s
from lesart.study.sureness import sureness_in_the_middle

ABSURD = 1e12
"""Limits while the laws' results on the capture are not known yet."""
FINEST = 3
"""Most decimals of a new field: more are seldom read."""
ROOM = 0.5
"""Margin on either side, as a share of the capture's span, where no range is known."""
MEANS: tuple[Table, ...] = tuple({"kind": "mean", "samples": samples} for samples in (4, 8, 16, 32))
MEDIANS: tuple[Table, ...] = ({"kind": "median", "samples": 3},)
LONGEST_UNIT = 4
NEVER_AT_REST = -1
"""In place of decimals, where even whole numbers change too often."""
READ_FROM = frozenset(("thermistor", "load cell", "analog sensor", "potentiometer"))
"""Kinds of parts that signals are read from; for others, such as a bus, it is not known here."""


def begins_with(recipe: Recipe, channel: Channel) -> bool:
    """True where it can be made from the unit of the channel's raw values."""
    sketch = recipe.sketch({ask.word: ask.usual for ask in recipe.asks})
    try:
        _from_raw(sketch, (), channel, _parts_of(sketch))
    except RequestError:
        return False
    return True


def with_signal(editor: Editor, state: State, bench: Bench, typed: str, *, told: str = "") -> Edited:
    """The text with the recipe applied to the chosen channel; ``told`` is the phrase as understood, where it was
    translated. Raises RequestError for a phrase, a unit or a capture that does not fit."""
    recipe, rest = recipe_of(typed)
    return with_recipe(editor, state, bench, recipe, said_in(recipe, rest), told or typed)


def with_recipe(editor: Editor, state: State, bench: Bench, recipe: Recipe, said: Said, told: str) -> Edited:
    """The text with the recipe applied to the chosen channel, with these stated answers; ``told`` is what was typed.

    Raises RequestError for a unit or a capture that does not fit.
    """
    channel = state.project.channels[state.channel]
    meant = {**usual_of(recipe, said, _greatest_ct(state.project, channel, bench)), **said}
    if meant.get("signed"):
        raw = bench.raw(state.project, channel)
        meant["signed"] = bits_with_sign(int(meant["signed"]), raw.x[raw.usable])
    sketch = recipe.sketch(meant)
    places = [key for ask in recipe.asks if ask.word not in said for key in ask.places if _is_in(sketch, key)]
    nobody_says = unit_in_name(channel.column) is None and state.project.sources[channel.source].decoding is None
    numbers = _as_read(sketch, places, state.project, channel, bench)
    parts = _parts_of(numbers.sketch)
    as_usual = sketch
    sketch, places = _from_raw(numbers.sketch, numbers.places, channel, parts, may_be_another=nobody_says)
    if begins_with_converter(as_usual) and not begins_with_converter(sketch):
        sketch, places = with_supply(sketch, places, meant["reference"], is_said="reference" in said)
    in_said = [key for ask in recipe.asks if ask.word in said for key in ask.places]
    given = parts_given(sketch, state.project, channel.name, in_said)
    # Joins are looked up while the old chain is still there: in between, nothing else fits its unit.
    text = state.history.text
    for name, table in given.new.items():
        role = next(each for each, called in given.names.items() if called == name)
        text = editor.with_table(text, ("parts", name), _with_assumed(table, _names(places, ("parts", role))))
    for key, value in given.told.items():
        text = editor.with_value(text, key, value)
    text = with_said(editor, text, [key for key in given.said if key in state.project.assumed])
    if sketch.reads:
        text = with_joined(editor, text, state.project, list(given.new), str(meant.get("reference", "5 V")))
        if any(law.get("sensor") == TO_SUPPLY for law in sketch.laws):
            text = turned(editor, text, state.project, given.names[sketch.reads], given.names["half"])
    text = _without_chain(editor, text, channel, state.project)
    text = _with_laws(editor, text, channel, sketch, given, places, state.project)
    project = check_project(text, state.project)
    certain = sketch.span if sketch.span and sketch.span_is and set(sketch.span_is) <= set(said) else ()
    text = _with_range(editor, text, project, channel.name, bench, sketch, certain)
    if numbers.says:
        own: Key = ("channels", channel.name)
        already = [str(key[2]) for key in check_project(text, project).assumed if key[:2] == own and len(key) == 3]
        text = _assuming(editor, text, own, [*already, "raw_unit"])
    text = _calmed(editor, text, channel.name, sketch, bench, check_project(text, project))
    assumed = check_project(text, project).assumed
    new = [
        key for key in assumed if key[:2] == ("channels", channel.name) or (key[0] == "parts" and key[1] in given.new)
    ]
    was = channel.unit_raw
    is_other = not was.same_dimension(parse_unit(sketch.raw_unit)) and was.symbol not in NO_UNIT
    another = f"; raw values in {sketch.raw_unit}, no longer in {was}" if is_other else ""
    more = f"; {counted(len(new), 'value')} {'is' if len(new) == 1 else 'are'} assumed, n goes through them"
    select = next((key for key in new if key[2:3] == ("law",)), None)
    deed = f"{channel.name}: {told.strip()}{another}{numbers.says}{more if new else ''}"
    return Edited(text, deed, select)


def _greatest_ct(project: Project, channel: Channel, bench: Bench) -> float:
    """The greatest count; 0 where raw values are not counts, or there are none."""
    if channel.unit_raw.symbol not in NO_UNIT:
        return 0.0
    raw = bench.raw(project, channel)
    return float(raw.x[raw.usable].max(initial=0.0))


def _as_read(sketch: Sketch, places: Sequence[Key], project: Project, channel: Channel, bench: Bench) -> AsRead:
    """The sketch with a converter or without one, by raw values whose unit nobody says."""
    if channel.unit_raw.symbol not in NO_UNIT:
        return AsRead(sketch, tuple(places))
    raw = bench.raw(project, channel)
    good = raw.x[raw.usable]

    def converter() -> Table:
        usual = usual_of(PLAIN_VOLTAGE, {"to": str(sketch.laws[0].get("input", ""))}, float(good.max(initial=0.0)))
        return {"kind": "converter", "bits": usual["bits"], "reference": usual["reference"]}

    def readings(read_by: Sketch, x: Floats) -> Floats:
        for law in read_by.laws:
            stage = _stage(law, _parts_of(read_by))
            x = stage.law.forward(x) if isinstance(stage, LawStage) else x
        return x

    return as_read(sketch, places, good, converter, readings)


def _is_in(sketch: Sketch, key: Key) -> bool:
    """True where the sketch has such a value. Without an amplifier there is no slope."""
    if key[0] != "laws":
        return True
    return int(key[1]) < len(sketch.laws) and key[2] in sketch.laws[int(key[1])]


# Where it begins


def _parts_of(sketch: Sketch) -> dict[str, Part]:
    return {
        name: Part(
            name, PARTS[str(table["kind"])], read_table(PARTS[str(table["kind"])].parameters, table, "", ("kind",))[0]
        )
        for name, table in sketch.parts.items()
    }


def _from_raw(
    sketch: Sketch,
    places: Sequence[Key],
    channel: Channel,
    parts: Mapping[str, Part],
    *,
    may_be_another: bool = False,
) -> tuple[Sketch, list[Key]]:
    """The sketch from the law that accepts the channel's unit: volts need no converter.

    A number without a unit is assumed to be in the first law's unit; so is one whose unit the capture does not state,
    as where an echo turned out to be a thermistor: ``may_be_another``. Raises RequestError.
    """
    sketch, places = begun_with_hertz(sketch, places, channel.unit_raw)
    if not sketch.laws:
        return sketch, list(places)
    units = [_unit_in(law, parts) for law in sketch.laws]
    raw = channel.unit_raw
    if raw.symbol in NO_UNIT and not units[0].same_dimension(raw):
        return sketch, list(places)
    first = next((index for index, unit in enumerate(units) if unit.same_dimension(raw)), None)
    if first is None and may_be_another:
        return sketch, list(places)
    if first is None:
        wanted = " or ".join(dict.fromkeys(str(unit) for unit in units))
        raise RequestError(f"{channel.name} is in {raw}; this begins with {wanted}. Its raw unit is a value in 2 Raw.")
    kept = [key for key in places if key[0] != "laws" or int(key[1]) >= first]
    moved = [("laws", int(key[1]) - first, *key[2:]) if key[0] == "laws" else key for key in kept]
    unit = sketch.raw_unit if first == 0 and raw.symbol in NO_UNIT else str(raw)
    return replace(sketch, laws=sketch.laws[first:], raw_unit=unit), moved


def _unit_in(law: Table, parts: Mapping[str, Part]) -> Unit:
    return _stage(law, parts).unit_in


def _stage(law: Table, parts: Mapping[str, Part]) -> Stage:
    """A law of the sketch as a stage. Raises RequestError for an invalid value."""
    kind = LAWS[str(law["kind"])]
    values, problems = read_table(kind.parameters, law, kind.name, also=("kind",))
    if problems:
        raise RequestError(f"{problems[0]}")
    values = {name: parts[value[1:]] if str(value).startswith("@") else value for name, value in values.items()}
    try:
        return stage_of(kind.name, kind.build(values))
    except ValueError as error:
        raise RequestError(f"{kind.name}: {error}.") from error


# The chain


def _without_chain(editor: Editor, text: str, channel: Channel, project: Project) -> str:
    """The text without the previous laws and filters, which the recipe replaces."""
    for section in ("law", "calm"):
        entries = project.tables["channels"][channel.name].get(section, ())
        for index in reversed(range(len(entries))):
            text = editor.without(text, ("channels", channel.name, section, index))
    return text


def _with_laws(
    editor: Editor,
    text: str,
    channel: Channel,
    sketch: Sketch,
    given: Given,
    places: Sequence[Key],
    project: Project,
) -> str:
    place: Key = ("channels", channel.name)
    parts = _parts_of(sketch)
    end = _end_of(sketch, parts)
    text = editor.with_value(text, (*place, "raw_unit"), sketch.raw_unit)
    text = editor.with_value(text, (*place, "unit"), str(end))
    for name, sign in (("lowest", "-"), ("highest", "")):
        text = editor.with_value(text, (*place, name), f"{sign}{ABSURD:g} {end}".removesuffix(" 1"))
    if sketch.reads in given.names:
        text = editor.with_value(text, (*place, "part"), given.names[sketch.reads])
    elif channel.part and project.hookup.parts[channel.part].kind.name in READ_FROM:
        text = editor.without(text, (*place, "part"))  # of what it was before
    laws = [_with_names(law, given) for law in sketch.laws]
    written = text
    for law in laws:
        written = editor.with_entry(written, (*place, "law"), law)
    # What the project knows already is taken from there, and is not assumed.
    homes = homes_in(written, check_project(written, project).hookup)
    for index, law in enumerate(laws):
        asked = _names(places, ("laws", index))
        known = [name for name in asked if (*place, "law", index, name) in homes]
        left = {name: value for name, value in law.items() if name not in known}
        names = [name for name in asked if name not in known]
        text = editor.with_entry(text, (*place, "law"), _with_assumed(left, names))
    return text


def _with_names(law: Table, given: Given) -> Table:
    """The sketch with names of the hook-up's parts."""
    return {
        name: given.names[value[1:]] if isinstance(value, str) and value.startswith("@") else value
        for name, value in law.items()
    }


def _end_of(sketch: Sketch, parts: Mapping[str, Part]) -> Unit:
    unit = parse_unit(sketch.raw_unit)
    for law in sketch.laws:
        unit = _stage(law, parts).unit_out
    return unit


def _names(places: Iterable[Key], table: Key) -> list[str]:
    return list(dict.fromkeys(str(key[-1]) for key in places if key[:-1] == table))


def _with_assumed(table: Table, names: Sequence[str]) -> Table:
    return {**table, ASSUMED: joined(names)} if names else table


def _assuming(editor: Editor, text: str, key: Key, names: Sequence[str]) -> str:
    return editor.with_value(text, (*key, ASSUMED), joined(names)) if names else text


# Range, calm and field, from what the capture shows


def _with_range(
    editor: Editor, text: str, project: Project, name: str, bench: Bench, sketch: Sketch, certain: Collection[str]
) -> str:
    """The usual range of such a signal, widened to the capture with some room; marked as assumed, except for an end
    that is ``certain``."""
    channel = project.channels[name]
    block = bench.run(project, channel).blocks[Step.TRUE]
    good = block.x[block.usable & np.isfinite(block.x)]
    if not len(good):
        raise RequestError(f"{name}: {where_it_ends(channel, bench.raw(project, channel))}; nothing is changed.")
    lowest, highest = (float(good.min()), float(good.max()))
    ends = zip(round_limits(lowest, highest, ROOM), (lowest, highest), strict=True)
    seen = [within_reach(limit, end, lambda reading: is_read(channel, reading)) for limit, end in ends]
    limits = [f"{limit} {channel.unit}".removesuffix(" 1") for limit in seen]
    for place, (usual, inside) in enumerate(zip(sketch.span or (), (lowest, highest), strict=False)):
        end = float(parse_quantity(usual, channel.unit).to(channel.unit))
        if (end <= inside) if place == 0 else (end >= inside):
            limits[place] = usual
    for word, limit in zip(("lowest", "highest"), limits, strict=True):
        text = editor.with_value(text, ("channels", name, word), limit)
    assumed = [word for word, limit in zip(("lowest", "highest"), limits, strict=True) if limit not in certain]
    return _assuming(editor, text, ("channels", name), assumed)


def _calmed(editor: Editor, text: str, name: str, sketch: Sketch, bench: Bench, before: Project) -> str:
    """A filter and the field that such a reading deserves: among filters that are not too late, with as many decimals
    as each calms, the lightest of those that show most. Where nothing calms it, the one that leaves least noise; and
    none where all are too late, as for a battery that is read every few minutes."""
    best: tuple[int, str, Project] | None = None
    for entry in _filters(sketch):
        filtered = editor.with_entry(text, ("channels", name, "calm"), {**entry, ASSUMED: "samples"})
        project = check_project(filtered, before)
        channel = project.channels[name]
        lag_s = total_cost(channel.filters, filters_interval_s(project, bench, channel)).lag_s
        if lag_s > (channel.most_lag_s or project.loop.limits.most_lag_s):
            continue
        worth = _worth(project, channel, bench)
        resting = _at_rest(project, channel, bench, worth)
        shown = NEVER_AT_REST if resting is None else resting
        if best is None or shown > best[0] or shown == NEVER_AT_REST == best[0]:
            best = shown, filtered, project
    if best is None:
        best = NEVER_AT_REST, text, check_project(text, before)
    resting, filtered, project = best
    decimals = _worth(project, project.channels[name], bench) if resting == NEVER_AT_REST else resting
    return _with_field(editor, filtered, project, name, decimals)


def _filters(sketch: Sketch) -> tuple[Table, ...]:
    """Filters to try, the lightest first."""
    if sketch.comes_round and sketch.span:
        ends = dict(zip(("lowest", "highest"), sketch.span, strict=True))
        return tuple({**entry, "kind": "circular mean", **ends} for entry in MEANS)
    return MEDIANS if sketch.jumps else MEANS


def _at_rest(project: Project, channel: Channel, bench: Bench, worth: int) -> int | None:
    """Decimals, up to ``worth``, that do not change too often; None where even whole numbers do."""
    calm, allowed = bench.run(project, channel).calm, channel.field.restless_per_min
    fewer = range(worth, -1, -1)
    return next(
        (each for each in fewer if bench.restless(replace(channel.field, decimals=each), calm) <= allowed), None
    )


def _with_field(editor: Editor, text: str, project: Project, name: str, decimals: int) -> str:
    """The field with these decimals, the unit after them, and room for the whole range."""
    channel = project.channels[name]
    key: Key = ("channels", name, "fit")
    unit = str(channel.unit)
    unit_text = "" if unit in NO_UNIT or len(unit) > LONGEST_UNIT else unit
    field = replace(channel.field, decimals=decimals, unit_text=unit_text)
    width = width_that_shows(field, channel.lowest, channel.highest, "", range(2, 17)) or field.width
    rules: dict[str, Written] = {"decimals": decimals, "unit_text": unit_text, "width": width}
    for rule, value in rules.items():
        text = editor.with_value(text, (*key, rule), value)
    for face in project.faces.values():
        for item in face.fields_of(name):
            if "width" in item.own_keys:
                text = editor.with_value(text, ("faces", face.name, "items", item.index, "width"), width)
    return text


def _worth(project: Project, channel: Channel, bench: Bench) -> int:
    """Decimals that resolve a change, at most one more than the reading is sure to, since changes are seen better than
    values are known; never more than the note on counts allows. The present ones where nothing is known."""
    try:
        sure = sureness_in_the_middle(project, channel, bench)
    except LesartError:
        sure = None
    if sure is None:
        return channel.field.decimals
    scale = float(channel.field.unit_in.scale / channel.field.unit_shown.scale)
    apart = max(sure.finest / COARSE, sure.one.made_out)
    worth = honest_decimals(max(apart, (sure.off or 0.0) / 10) * scale)
    return channel.field.decimals if worth >= MOST else min(worth, FINEST)
