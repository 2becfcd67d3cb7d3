"""The range of a channel after a law was added, where it does not follow from the old one."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.errors import LesartError
from lesart.core.fit.cells import Cell
from lesart.core.fit.field import WIDEST
from lesart.core.fit.inspect import fits, honest_decimals, width_that_shows
from lesart.core.law.linear import LINEAR
from lesart.core.law.stage import LawStage
from lesart.core.one_count import one_count
from lesart.core.step import Step
from lesart.core.units import convert
from lesart.desk.entries.edit_result import Edited, Here
from lesart.desk.entries.recipes.made import LONGEST_UNIT
from lesart.desk.entries.said.patterns import NO_UNIT
from lesart.project.check import check_project
from lesart.project.model import Channel, Project
from lesart.project.new.limits import reach_limits, written_limits
from lesart.project.text import Editor

MOST_PLACES = 3
"""Most decimals that a new law may add."""


def with_what_it_reads(here: Here, made: Edited) -> Edited:
    """The text with limits for the new law's result: the old ones through the law where it is linear, else from the
    capture where other channels take part."""
    channel, project = here.state.chosen, check_project(made.text, here.state.project)
    after = project.channels[channel.name]
    if channel.variant:
        return made
    law = after.chain.links[len(after.laws) - 1].stage
    is_line = isinstance(law, LawStage) and law.kind == LINEAR.name
    if after.unit.same_dimension(channel.unit) and isinstance(law, LawStage) and is_line:
        ends = law.law.forward(convert(np.array([channel.lowest, channel.highest]), channel.unit, law.unit_in))
        ends = convert(ends, law.unit_out, after.unit)
        limits = {"lowest": float(ends.min()), "highest": float(ends.max())}
        # Six figures, or as many as tell a narrow range's ends apart.
        figures = 6 if f"{limits['lowest']:.6g}" != f"{limits['highest']:.6g}" else 12
        written = {name: f"{end:.{figures}g} {after.unit}".removesuffix(" 1") for name, end in limits.items()}
    elif is_line:
        return _with_room(here, made)  # they have followed already
    else:
        came = _what_came(here, project, after)
        written = written_limits(came, str(after.unit)) if len(came) else {}
    return _with_room(here, replace(made, text=_with_limits(here, made.text, written)))


def with_reach(here: Here, made: Edited) -> Edited:
    """The text with limits from the capture for a law over time, or with other channels: they do not follow from the
    old ones."""
    channel, project = here.state.chosen, check_project(made.text, here.state.project)
    after = project.channels[channel.name]
    last = after.laws[-1]
    reads_more = set(after.chain.reads) > set(channel.chain.reads) and not last.kind.ends(last.written)
    if channel.variant:
        return made
    if not (after.chain.is_lasting(Step.LAW) or reads_more):
        text = _with_unit_behind(here, made.text, project)
        return replace(made, text=_with_figures(here, text, check_project(text, project)))
    came = _what_came(here, project, after)
    if reads_more:
        limits = written_limits(came, str(after.unit)) if len(came) else {}
        return _with_room(here, replace(made, text=_with_limits(here, made.text, limits)))
    text = _with_limits(here, made.text, reach_limits(came, str(after.unit)))
    changed = check_project(text, project).channels[channel.name]
    placed = _with_places(here.editor, text, changed, float(np.abs(came).max(initial=0.0)))
    return _with_room(here, replace(made, text=placed))


def with_own_room(editor: Editor, text: str, project: Project, channel: Channel) -> str:
    """The text with enough cells for the range in the channel's own field, which the margin shows; unchanged where a
    panel shows that one, since items next to it may be in the way."""
    field = channel.field
    is_shown = any(
        "width" not in item.own_keys for face in project.faces.values() for item in face.fields_of(channel.name)
    )
    if is_shown or fits(field, channel.lowest, channel.highest, ""):
        return text
    width = width_that_shows(field, channel.lowest, channel.highest, "", range(field.width + 1, WIDEST + 1))
    return editor.with_value(text, (*channel.key("fit"), "width"), width) if width else text


def _with_room(here: Here, made: Edited) -> Edited:
    project = check_project(made.text, here.state.project)
    text = _with_unit_behind(here, made.text, project)
    text = _with_figures(here, text, check_project(text, project))
    project = check_project(text, project)
    text = with_own_room(here.editor, text, project, project.channels[here.state.channel])
    return replace(made, text=text)


def _with_figures(here: Here, text: str, project: Project) -> str:
    """The text with three significant figures for the greatest value where bare counts, without decimals, became a
    quantity. Unchanged where a field on a panel has no room for them."""
    before, after = here.state.chosen, project.channels[here.state.channel]
    became = before.unit.symbol in NO_UNIT and after.unit.symbol not in NO_UNIT
    if not became or after.field.decimals or before.variant:
        return text
    came = _what_came(here, project, after)
    placed = _with_places(here.editor, text, after, float(np.abs(came).max(initial=0.0)), _worth(here, project, after))
    changed = check_project(placed, project)
    for face in changed.faces.values():
        for item in face.fields_of(after.name):
            if not fits(item.field, after.lowest, after.highest, changed.panels[face.panel].joined):
                return text
    return placed


def _with_unit_behind(here: Here, text: str, project: Project) -> str:
    """The text with the unit after the number where counts became a quantity, and every field has room and letters for
    it; else unchanged."""
    before, after = here.state.chosen, project.channels[here.state.channel]
    unit = after.unit.symbol
    is_new = before.unit.symbol in NO_UNIT and unit not in NO_UNIT and not after.field.unit_text
    if not is_new or len(unit) > LONGEST_UNIT:
        return text
    for face in project.faces.values():
        panel = project.panels[face.panel]
        for item in face.fields_of(after.name):
            field = replace(item.field, unit_text=unit)
            has_letters = all(panel.code(Cell(letter)) is not None for letter in unit)
            if (
                panel.kind == "segments"
                or not has_letters
                or not fits(field, after.lowest, after.highest, panel.joined)
            ):
                return text
    return here.editor.with_value(text, (*after.key("fit"), "unit_text"), unit)


def _what_came(here: Here, project: Project, channel: Channel) -> Floats:
    """Good results of its laws and correction over the capture; none where it cannot be read."""
    try:
        block = here.bench.run(project, channel).blocks[Step.TRUE]
    except LesartError:
        return np.empty(0)
    return block.x[block.usable]


def _with_limits(here: Here, text: str, limits: Mapping[str, str]) -> str:
    for name, limit in limits.items():
        text = here.editor.with_value(text, ("channels", here.state.channel, name), limit)
    return text


def _worth(here: Here, project: Project, channel: Channel) -> int:
    """Decimals that one raw count deserves, at the median count; ``MOST_PLACES`` where no count is known."""
    try:
        raw = here.bench.run(project, channel).blocks[Step.RAW]
    except LesartError:
        return MOST_PLACES
    if channel.unit_raw.symbol != "ct" or channel.chain.reads or not raw.usable.any():
        return MOST_PLACES
    change = one_count(channel.chain, float(np.median(raw.x[raw.usable])), here.bench.code_step(raw))
    return honest_decimals(change) if math.isfinite(change) and change > 0 else MOST_PLACES


def _with_places(editor: Editor, text: str, channel: Channel, most: float, worth: int = MOST_PLACES) -> str:
    """The text with decimals for three significant figures of the greatest value, at most as many as a count deserves,
    where the field has room."""
    decimals = min(max(2 - math.floor(math.log10(most)), 0), MOST_PLACES, worth) if most > 0 else 0
    if decimals <= channel.field.decimals or not fits(
        replace(channel.field, decimals=decimals), channel.lowest, channel.highest, ""
    ):
        return text
    return editor.with_value(text, ("channels", channel.name, "fit", "decimals"), decimals)
