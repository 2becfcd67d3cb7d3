"""Facts that are stated again elsewhere, compared with their homes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from lesart.core.glass.panels.segment_panel import SCANNED, THROUGH
from lesart.core.law.divider import HALF
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.parameters import Parameter, parted
from lesart.core.step import Step
from lesart.project.facts.home import laws_in
from lesart.project.facts.homes import parameter_of
from lesart.project.facts.same import differs
from lesart.project.model import Home, Project
from lesart.project.toml_values import value_at

PANELS_OF: Mapping[str, tuple[str, ...]] = {
    "character display": ("characters",),
    "two-wire character display": ("characters",),
    "two-wire pixel display": ("pixels",),
    "four-wire pixel display": ("pixels",),
    "e-paper display": ("pixels", "inks"),
    "colour display": ("colours",),
    "colour lamps": ("lamps",),
    "chained modules": ("pixels",),
    "four digits": ("segments",),
    "digits on registers": ("segments",),
    "digits on two lines": ("segments",),
    "digits with an address": ("segments",),
    "numbered digits": ("segments",),
    "one digit": ("segments",),
}
"""Kinds of panels that a kind of part can be."""
STEPS = {"channels": Step.LAW, "sums": Step.WIRE, "loop": Step.PACE}


def inspect_facts(project: Project) -> Iterator[Note]:
    """A note for each fact that is stated differently in two places, with both and a remedy that takes the home's; and
    for a resistor of a law that the hook-up lacks."""
    for key, home in project.homes.items():
        written = value_at(project.tables, key)
        parameter = parameter_of(project.tables, key)
        if written is not None and parameter is not None and home.compared and differs(parameter, written, home):
            yield _differing(project, key, home, parameter, written)
    yield from _unjoined(project)
    yield from _driven_twice(project)
    yield from _other_displays(project)


def _differing(project: Project, key: Key, home: Home, parameter: Parameter, written: object) -> Note:
    who, where = _stated_at(key)
    shown, own = parted(str(written))[0], parted(str(home.written))[0]
    doubt = "" if home.certain else ", unless something else is stated"
    step = Step.PACE if key[0] == "panels" and "scan" in key else STEPS.get(str(key[0]), Step.GLASS)
    remedy = "take it from there"
    if not home.certain:
        remedy += f", or write that value as the {home.key[-1]} of {home.key[1]}".replace("_", " ")
    return Note(
        FAULT if home.certain else DOUBT,
        step,
        who if key[0] == "channels" else None,
        f"{who}: {parameter.title} is {shown} in {where}, but {own} according to {home.says}{doubt}.",
        figure=_number(parameter, written),
        unit=parameter.unit if parameter.kind == "quantity" else None,
        limit=_number(parameter, home.written),
        remedy=remedy,
        mend=(Mend(key, None),),
        panel=who if key[0] == "panels" else None,
        place=key,
        ways=(str(key[3]),) if key[0] == "channels" and key[2] == "variants" else ("",),
    )


def _number(parameter: Parameter, written: object) -> float | None:
    try:
        value = parameter.read(written)
    except ValueError:
        return None
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None


def _stated_at(key: Key) -> tuple[str, str]:
    """Whose value it is, and its place, in words."""
    index = next((part for part in key if isinstance(part, int)), None)
    if key[0] == "channels" and index is not None:
        return str(key[1]), f"law {index + 1}"
    if key[0] == "loop":
        return "the loop", "8 Pace"
    if key[0] == "panels":
        return str(key[1]), "8 Pace" if "scan" in key else "7 Glass"
    return str(key[1]), "the sum"


def _driven_twice(project: Project) -> Iterator[Note]:
    """A note on digits that are held lit by a driver and yet have scan times: one of the two is wrong."""
    for name, table in project.tables.get("panels", {}).items():
        drive = table.get("drive")
        key: Key = ("panels", name, "drive")
        if "scan" not in table or drive is None or drive in (SCANNED, THROUGH) or key in project.homes:
            continue
        yield Note(
            FAULT,
            Step.PACE,
            None,
            f'{name}: it is driven by "{drive}", and its scan says that its digits are lit in turn.',
            remedy="say that it is driven scanned, or take its scan out of the project file",
            mend=(Mend(key, SCANNED),),
            panel=name,
            place=key,
        )


def _other_displays(project: Project) -> Iterator[Note]:
    """A note on a panel and a part of the same name that are different kinds of display."""
    for name, panel in project.panels.items():
        part = project.hookup.parts.get(name)
        kinds = PANELS_OF.get(part.kind.name) if part is not None else None
        written = project.tables.get("panels", {}).get(name, {}).get("kind")
        if part is None or kinds is None or written in kinds:
            continue
        yield Note(
            FAULT,
            Step.GLASS,
            None,
            f"{name}: it is {panel.says()} here, but {_with_article(part.kind.name)} in 1 Wire.",
            remedy="R calls the panel, or the part in 1 Wire, by another name",
            panel=name,
            place=("parts", name, "kind"),
        )


def _with_article(name: str) -> str:
    return name if name.endswith("s") else f"{'an' if name[0] in 'aeiou' else 'a'} {name}"


def _unjoined(project: Project) -> Iterator[Note]:
    """A note on a divider's fixed half without a connection: the law uses a resistor that is not on the desk."""
    if not project.hookup.joins:
        return
    for place in laws_in(project.tables):
        resistor = str(place.entry.get("part"))
        if place.entry.get("kind") != HALF.name or resistor not in project.hookup.parts:
            continue
        if not any(join.through == resistor for join in project.hookup.joins):
            yield Note(
                DOUBT,
                Step.LAW,
                place.channel,
                f"{place.channel}: law {place.index + 1} takes {resistor} as the other half of its divider, and no "
                "connection runs through it.",
                remedy="join it in 1 Wire, or name the resistor that is there",
                place=(*place.key, "part"),
            )
