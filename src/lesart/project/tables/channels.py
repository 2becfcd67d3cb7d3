"""The tables of a channel: laws, references, filters and field, joined into a chain."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from graphlib import TopologicalSorter
from typing import Any

from lesart.core import calm, law
from lesart.core.calm.alarm import ALARM, Alarm, build_alarm
from lesart.core.calm.circular import CircularMean, OntoCircle, circle_among
from lesart.core.calm.record import FilterEntry, FilterKind
from lesart.core.calm.reject import RejectRange
from lesart.core.chain import AROUND, OUTSIDE, Chain, Neighbour, Stage, compile_chain
from lesart.core.errors import Problem, ProjectError, UnitError
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import Field, build_field
from lesart.core.law.outside import MARKED, SHOWN
from lesart.core.law.record import LawEntry, LawKind
from lesart.core.law.stage import stage_of
from lesart.core.pack.settings import OF_CHANNEL
from lesart.core.parameters import Parameter, read_table, shown
from lesart.core.raw.no_reading import no_reading_from
from lesart.core.step import Step
from lesart.core.true.correction import Correction
from lesart.core.units import Unit, conversion, parse_unit
from lesart.core.wire.part import Part
from lesart.project.model import VARYING, Channel, Table
from lesart.project.tables.corrections import check_calibrations, check_true
from lesart.project.tables.kinds import kind_of
from lesart.project.tables.known_parts import NO_PARTS, KnownParts, leans_on_broken, part_named
from lesart.project.tables.list_tables import in_unit, tables_at
from lesart.project.tables.variants import sections_of

CHANNEL = (
    Parameter("source", "source", "text", "name of the source it is read from", longest=60, names="sources"),
    Parameter("column", "column", "text", "name or number, from 1, of the column", longest=80),
    Parameter("part", "read from", "part", "part of the hook-up that it is read from", "", longest=60),
    Parameter("raw_unit", "raw unit", "unit", "unit of the column's numbers", "ct"),
    Parameter("no_reading", "no reading", "text", "raw values that stand for none: -127, 85", "", longest=80),
    Parameter("unit", "unit", "unit", "unit of the reading"),
    Parameter("lowest", "lowest", "any quantity", "least reading the channel can take, e.g. 0 kg"),
    Parameter("highest", "highest", "any quantity", "greatest reading the channel can take, e.g. 120 kg"),
    Parameter(
        "outside",
        "outside",
        "choice",
        "what happens to a reading beyond lowest or highest",
        SHOWN,
        choices=(SHOWN, MARKED),
    ),
    Parameter(
        "most_lag",
        "most lag",
        "quantity",
        "how late its filters may make it; 0: no limit",
        "0 s",
        unit="s",
        lowest=0,
    ),
)
PlacedStage = tuple[Step, str, Stage]
"""A stage with its step and its place in the channel."""
DEEPEST = 20
"""Longest path of channels that read each other; more are a mistake, and thousands would recurse too deeply."""
SECTIONS = (*VARYING, "variants", "calibrations")
STALE_AFTER = next(parameter for parameter in FIELD if parameter.name == "stale_after")
CHANNEL_PART = next(parameter for parameter in CHANNEL if parameter.name == "part")


def neighbours_of(tables: object) -> dict[str, Neighbour]:
    """What channels have to know about each other."""
    found = {}
    for name, table in tables.items() if isinstance(tables, Mapping) else ():
        fit = table.get("fit", {}) if isinstance(table, Mapping) else {}
        written = {"stale_after": fit["stale_after"]} if isinstance(fit, Mapping) and "stale_after" in fit else {}
        ages, _ = read_table([STALE_AFTER], written, "")
        try:
            found[name] = Neighbour(parse_unit(table["unit"]), ages.get("stale_after", float("inf")))
        except (KeyError, TypeError, AttributeError, UnitError):
            continue
    return found


def circles(channels: Mapping[str, Channel]) -> list[Problem]:
    """A problem for each channel whose laws read it in a circle, or through too many others."""
    problems = []
    reads = {name: [other for other in channel.chain.reads if other in channels] for name, channel in channels.items()}
    for name in channels:
        way = _way_back(name, reads)
        if way:
            links = '" reads "'.join(way)
            wanted = f'"{links}": a reading cannot be made of itself; give one of them a number instead'
            problems.append(Problem(f"channels.{name}.law", "", wanted))
    if problems:
        return problems
    depth: dict[str, int] = {}
    for name in TopologicalSorter(reads).static_order():
        depth[name] = 1 + max((depth[other] for other in reads[name]), default=0)
        if depth[name] == DEEPEST + 1:
            wanted = f"it reads a channel that reads another, and so on {DEEPEST} times; no reading needs so many"
            problems.append(Problem(f"channels.{name}.law", "", wanted))
    return problems


def _way_back(name: str, reads: Mapping[str, Sequence[str]]) -> tuple[str, ...]:
    """The shortest path of channels from ``name`` back to itself; empty where there is none."""
    before: dict[str, str] = {}
    waiting = deque([name])
    while waiting:
        at = waiting.popleft()
        for other in reads[at]:
            if other == name:
                way = [name, at]
                while way[-1] != name:
                    way.append(before[way[-1]])
                return tuple(way[::-1])
            if other not in before:
                before[other] = at
                waiting.append(other)
    return ()


def check_channel(
    name: str,
    table: Table,
    sources: Sequence[str],
    parts: KnownParts = NO_PARTS,
    neighbours: Mapping[str, Neighbour] | None = None,
) -> tuple[Channel | None, list[Problem]]:
    """The channel, or every problem of its tables; neither while a part it leans on has a problem of its own.

    ``neighbours`` are all channels of the project, by name.
    """
    place = f"channels.{name}"
    if leans_on_broken(table, parts):
        return None, []
    values, problems = _own_values(table, place, sources, parts)
    # Where the part is wrong, so is what laws take from it; one report is enough.
    named = not values.get("part") or values["part"] in parts.good
    laws, converting = _laws(table, place, parts, problems) if named else ([], [])
    if "unit" not in values or "raw_unit" not in values:
        return None, problems
    unit: Unit = values["unit"]
    limits = _limits(values, table, place, problems)
    filters, filtering = _filters(table, place, unit, problems)
    # Filters come after the references, but they know that a reading is circular.
    circle = circle_among(filtering)
    turn = circle.turn if circle is not None else 0.0
    references, correction, limit, valid_d = check_true(table.get("true", {}), f"{place}.true", unit, turn, problems)
    calibrations = check_calibrations(table.get("calibrations", {}), f"{place}.calibrations", unit, turn, problems)
    alarms = _alarms(table, place, unit, problems)
    field = check_field(table.get("fit", {}), f"{place}.fit", unit, problems)
    packed, wrong = read_table(OF_CHANNEL, table.get("pack", {}), f"{place}.pack")
    problems += wrong
    if problems or field is None or correction is None:
        return None, problems
    behind = _behind(correction, circle, limits if values["outside"] == MARKED else None, filtering)
    chain = _chain(place, values["raw_unit"], converting, behind, unit, neighbours or {}, problems)
    variants = _checked_variants(name, table, sources, parts, neighbours, problems) if chain is not None else ()
    if chain is None or problems:
        return None, problems
    return Channel(
        name=name,
        source=values["source"],
        column=values["column"],
        part=values["part"],
        unit_raw=values["raw_unit"],
        no_reading=values["no_reading"],
        unit=unit,
        lowest=limits[0],
        highest=limits[1],
        laws=tuple(laws),
        filters=tuple(filters),
        chain=chain,
        references=references,
        correction=correction,
        residual_limit=limit,
        valid_d=valid_d,
        most_lag_s=values["most_lag"],
        outside=values["outside"],
        alarms=alarms,
        field=field,
        variants=variants,
        calibrations=calibrations,
        computed=packed["computed"],
    ), []


def _behind(
    correction: Correction, circle: CircularMean | None, marked: Sequence[float] | None, filtering: Sequence[Stage]
) -> list[PlacedStage]:
    """Stages after the laws.

    Readings outside the limits are ``marked`` before the filters, so that none averages impossible ones; a corrected
    circular reading is wrapped before that.
    """
    behind: list[PlacedStage] = [(Step.TRUE, "true", correction)]
    if circle is not None:
        begins = correction.corrected(circle.lowest)
        behind.append((Step.TRUE, AROUND, OntoCircle(correction.unit_out, circle.lowest, circle.turn, begins)))
    if marked is not None:
        behind.append((Step.CALM, OUTSIDE, RejectRange(correction.unit_out, marked[0], marked[1])))
    return [*behind, *((Step.CALM, f"calm[{index}]", stage) for index, stage in enumerate(filtering))]


def _own_values(
    table: Table, place: str, sources: Sequence[str], parts: KnownParts
) -> tuple[dict[str, Any], list[Problem]]:
    """Values of the channel's own table; its source and part exist."""
    values, problems = read_table(CHANNEL, table, place, also=SECTIONS)
    if "source" in values and values["source"] not in sources:
        known = ", ".join(sources) or "none; add one under [sources]"
        problems.append(Problem(f"{place}.source", shown(values["source"]), f"the project's sources are {known}"))
    if values.get("part"):
        part_named(CHANNEL_PART, values["part"], f"{place}.part", parts, problems)
    try:
        values["no_reading"] = no_reading_from(values.get("no_reading", ""))
    except ValueError as error:
        problems.append(Problem(f"{place}.no_reading", shown(values["no_reading"]), str(error)))
    return values, problems


def _limits(values: Mapping[str, Any], table: Table, place: str, problems: list[Problem]) -> list[float]:
    """Lowest and highest in the channel's unit, where given."""
    unit: Unit = values["unit"]
    limits = [in_unit(values[end], unit, f"{place}.{end}", problems) for end in ("lowest", "highest") if end in values]
    if len(limits) == 2 and not limits[0] < limits[1]:
        problems.append(Problem(f"{place}.highest", shown(table["highest"]), "it must be above lowest"))
    return limits


def _checked_variants(
    name: str,
    table: Table,
    sources: Sequence[str],
    parts: KnownParts,
    neighbours: Mapping[str, Neighbour] | None,
    problems: list[Problem],
) -> tuple[Channel, ...]:
    """Each variant as a channel of its own; problems are reported at their own place."""
    place = f"channels.{name}"
    own = table.get("variants", {})
    if not isinstance(own, Mapping):
        problems.append(Problem(f"{place}.variants", shown(own), "it must hold tables with names, like [….variants.β]"))
        return ()
    found = []
    for variant, each in own.items():
        here = f"{place}.variants.{variant}"
        _, wrong = read_table((), each, here, also=VARYING)
        if wrong:
            problems += wrong
            continue
        channel, wrong = check_channel(name, sections_of(table, each), sources, parts, neighbours)
        problems += [
            Problem(here + problem.place.removeprefix(place), problem.value, problem.wanted) for problem in wrong
        ]
        if channel is not None:
            found.append(replace(channel, variant=variant))
    return tuple(found)


def check_field(table: object, place: str, unit: Unit, problems: list[Problem]) -> Field | None:
    """A field whose unit measures the same thing as the channel's."""
    values, found = read_table(FIELD, table, place)
    problems += found
    if found:
        return None
    try:
        unit_shown = parse_unit(values["unit"]) if values["unit"] else unit
        conversion(unit, unit_shown)
        return build_field(values, unit, unit_shown)
    except UnitError as error:
        problems.append(Problem(f"{place}.unit", shown(values["unit"]), str(error).rstrip(".")))
    except ValueError as error:
        problems.append(Problem(place, "", str(error)))
    return None


def _built(
    table: Table,
    key: str,
    place: str,
    kinds: Mapping[str, Any],
    build: Callable[[Any, dict[str, Any]], Stage],
    problems: list[Problem],
    parts: KnownParts = NO_PARTS,
) -> list[tuple[Any, dict[str, Any], Table, Stage]]:
    """Kind, values, table and stage of each entry of a list; a problem for each wrong one."""
    built = []
    for index, entry in enumerate(tables_at(table, key, place, problems)):
        here = f"{place}.{key}[{index}]"
        kind, missing = kind_of(entry, kinds, here)
        if kind is None:
            problems += missing
            continue
        values, found = read_table(kind.parameters, entry, here, also=("kind",))
        for parameter in kind.parameters:
            if parameter.kind == "part" and parameter.name in values:
                values[parameter.name] = part_named(
                    parameter, values[parameter.name], f"{here}.{parameter.name}", parts, found
                )
        problems += found
        if not found:
            try:
                built.append((kind, values, entry, build(kind, values)))
            except (ValueError, UnitError) as error:
                problems.append(Problem(here, "", str(error).rstrip(".")))
    return built


def _laws(table: Table, place: str, parts: KnownParts, problems: list[Problem]) -> tuple[list[LawEntry], list[Stage]]:
    def build(kind: LawKind, values: dict[str, Any]) -> Stage:
        return stage_of(kind.name, kind.build(values))

    built = _built(table, "law", place, law.KINDS, build, problems, parts)
    return [LawEntry(kind, values, entry) for kind, values, entry, _ in built], [stage for *_, stage in built]


def law_stages(table: Table, parts: Mapping[str, Part]) -> list[Stage]:
    """The laws of a channel's table. Raises ProjectError where one is wrong."""
    problems: list[Problem] = []
    _, stages = _laws(table, "law", KnownParts(parts), problems)
    if problems:
        raise ProjectError("lesart.toml", tuple(problems))
    return stages


def _filters(table: Table, place: str, unit: Unit, problems: list[Problem]) -> tuple[list[FilterEntry], list[Stage]]:
    def build(kind: FilterKind, values: dict[str, Any]) -> Stage:
        return kind.build(values, unit)

    built = _built(table, "calm", place, calm.KINDS, build, problems)
    return [FilterEntry(kind, values, entry) for kind, values, entry, _ in built], [stage for *_, stage in built]


def _alarms(table: Table, place: str, unit: Unit, problems: list[Problem]) -> tuple[Alarm, ...]:
    found = []
    for index, entry in enumerate(tables_at(table, "alarms", place, problems)):
        here = f"{place}.alarms[{index}]"
        values, wrong = read_table(ALARM, entry, here)
        problems += wrong
        if wrong:
            continue
        try:
            found.append(build_alarm(values, unit))
        except (ValueError, UnitError) as error:
            problems.append(Problem(here, "", str(error).rstrip(".")))
    return tuple(found)


def _chain(
    place: str,
    unit_raw: Unit,
    laws: list[Stage],
    behind: Sequence[PlacedStage],
    unit: Unit,
    neighbours: Mapping[str, Neighbour],
    problems: list[Problem],
) -> Chain | None:
    """The compiled chain, with what comes ``behind`` its laws; None with a problem where two units do not fit."""
    stages: list[PlacedStage] = [(Step.LAW, f"law[{index}]", stage) for index, stage in enumerate(laws)]
    try:
        return compile_chain(unit_raw, [*stages, *behind], unit, neighbours)
    except UnitError as error:
        problems.append(Problem(place, "", str(error).rstrip(".")))
        return None
