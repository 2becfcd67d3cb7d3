"""Why a channel reads what it does: true values in, the mistakes that explain them out."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.latest import latest
from lesart.core.law.over_time.stage import OverTimeStage
from lesart.core.pack.field_forms.wanted import last_place
from lesart.core.ranked import quantiles
from lesart.core.raw.edges import Edges
from lesart.project.model import Channel, Project
from lesart.project.tables.channels import neighbours_of
from lesart.study.bench import Bench
from lesart.study.why.apart import Answer, Apart, apart, grouped_answers
from lesart.study.why.of_parameters import law_suspects, unit_suspects
from lesart.study.why.of_raw import (
    at_its_end,
    column_suspects,
    decode_suspects,
    field_suspects,
    number_suspects,
    spec_of,
)
from lesart.study.why.of_readings import common_suspects, lost_part, reading_suspects
from lesart.study.why.search import Explanation, Searched, explained
from lesart.study.why.solved import solved_suspects
from lesart.study.why.suspect import Suspect
from lesart.study.why.thread_model import NEVER, ThreadModel, model_of
from lesart.study.why.truth import Truth

LOOKED_AT = 129
"""Raw values at which explanations are compared."""
MIDDLE = 0.01, 0.99
WIDER = 0.3
READINGS, AFTER = 12, 0.01
"""Readings of edges to consider, so that one of them is whole however it is decoded, and a share of that afterwards."""
"""Share of the capture's span considered to either side of it."""
ENDS = (("lowest",), ("highest",))
"""The ends of a channel's range, which may be assumed."""
SEEN, WIDE = 200, 0.1
"""Samples of the capture considered, and how far beyond the channel's range a reading may be."""
TOLD_APART = 3
"""Number of answers that a reading should tell apart; two where none does for three."""


@dataclass(frozen=True, eq=False)
class WhyNumber:
    """``now`` is the channel's reading at each true value.

    ``answers`` come likeliest first; ``apart`` is the reading that would tell the first ones apart. ``said`` is a
    finding beyond the project's statements; ``tried`` is the number of suspects.
    """

    channel: Channel
    truths: tuple[Truth, ...]
    now: tuple[float, ...]
    answers: tuple[Answer, ...]
    apart: Apart | None
    said: str
    tried: int
    raw: Floats
    curve: Floats
    """Its readings as stated, over ``raw``; explanations have their own."""

    @property
    def is_right(self) -> bool:
        """True where all true values are met as it is."""
        return all(abs(now - each.reading) <= each.tolerance for now, each in zip(self.now, self.truths, strict=True))


def not_of_totals(channel: Channel) -> None:
    """Raises RequestError where a reading depends on more than one raw sample."""
    going_on = next((link.stage.kind for link in channel.chain.links if isinstance(link.stage, OverTimeStage)), "")
    if going_on:
        raise RequestError(
            f"{channel.name}: its {going_on} is made of all that came before, and one reading cannot say what is wrong "
            "in it; ask of a channel that has the same laws without it."
        )


def why_number(project: Project, bench: Bench, channel: Channel, truths: Sequence[Truth]) -> WhyNumber:
    """Search everything that the project states about a channel. Raises RequestError for a total."""
    not_of_totals(channel)
    neighbours = neighbours_of(project.tables.get("channels", {}))
    reads = {name: neighbours[name] for name in channel.chain.reads}
    model = model_of(channel, reads, spec_of(project, channel) if all(each.data for each in truths) else None)
    now = model.at(truths)
    searched = _searched(project, bench, channel, model, truths)
    suspects = list(_suspects(project, bench, channel, truths, now))
    known = {(each.key, str(each.value)) for each in suspects}
    solved = solved_suspects(channel, searched.off, model, len(truths))
    suspects += [each for each in solved if (each.key, str(each.value)) not in known]
    wrong = any(not abs(a - each.reading) <= each.tolerance for a, each in zip(now.tolist(), truths, strict=True))
    found: list[Explanation] = explained(searched, suspects) if wrong else []
    finest = min((each.tolerance for each in truths), default=0.0)
    answers = grouped_answers(found, finest, (channel.lowest, channel.highest))
    said = (at_its_end(channel, truths) or lost_part(truths, now.tolist())) if wrong else ""
    try:
        curve = searched.curve(model)
    except NEVER:
        curve = np.full(len(searched.raw), np.nan)
    telling = _apart(curve, channel, answers, finest)
    shown = tuple(now.tolist())
    return WhyNumber(channel, tuple(truths), shown, tuple(answers), telling, said, len(suspects), searched.raw, curve)


def _suspects(
    project: Project, bench: Bench, channel: Channel, truths: Sequence[Truth], now: Floats
) -> Iterator[Suspect]:
    yield from law_suspects(channel)
    yield from unit_suspects(channel)
    if all(each.data for each in truths):
        yield from field_suspects(project, channel)
    else:
        yield from number_suspects(channel, truths)
    if all(each.lines for each in truths):
        yield from decode_suspects(project, channel)
    if all(each.beside for each in truths):
        yield from column_suspects(channel, list(truths[0].beside))
    yield from reading_suspects(channel)
    yield from common_suspects(channel, truths, now.tolist())


def _searched(
    project: Project, bench: Bench, channel: Channel, model: ThreadModel, truths: Sequence[Truth]
) -> Searched:
    raws = [each.raw for each in truths if math.isfinite(each.raw)]
    good = np.zeros(0)
    try:
        block = bench.raw(project, channel)
        good = block.x[block.usable]
        # A few absurd samples do not make the range.
        raws += quantiles(good, MIDDLE) if len(good) else ()
    except LesartError:
        pass
    # Over the channel's own range, if its statements are not too wrong for that.
    ends = [channel.chain.raw_for(end) for end in (channel.lowest, channel.highest)]
    raws += [end for end in ends if math.isfinite(end)]
    low, high = (min(raws), max(raws)) if raws else (0.0, 1.0)
    room = (high - low) * WIDER or max(abs(high), 1.0) * WIDER
    grid = np.linspace(low - room, high + room, LOOKED_AT)
    if channel.unit_raw.symbol == "ct":
        grid = np.unique(np.rint(grid))
    others = {name: np.full(len(grid), truths[-1].others.get(name, float("nan"))) for name in model.neighbours}
    some = good[:: max(len(good) // SEEN, 1)]
    return Searched(model, tuple(truths), grid, others, some, _range(project, channel, truths))


def _range(project: Project, channel: Channel, truths: Sequence[Truth]) -> tuple[float, float]:
    """The range of its readings: None where not stated, or where a stated true value is outside, since it then came
    from the wrong laws."""
    said = not any(key[:2] == ("channels", channel.name) and key[2:] in ENDS for key in project.assumed)
    within = all(channel.lowest <= each.reading <= channel.highest for each in truths)
    if not (said and within):
        return -math.inf, math.inf
    span = channel.highest - channel.lowest
    return channel.lowest - WIDE * span, channel.highest + WIDE * span


def _apart(now: Floats, channel: Channel, answers: Sequence[Answer], tolerance: float) -> Apart | None:
    for count in range(min(TOLD_APART, len(answers)), 1, -1):
        found = apart(now, answers[:count], channel.lowest, channel.highest, tolerance)
        if found is not None:
            return found
    return None


def truth_at(
    project: Project, bench: Bench, channel: Channel, at_s: float, reading: float, tolerance: float, said: str = ""
) -> Truth:
    """A true value at a time of the capture. Raises CaptureError where that cannot be read."""
    source = project.sources[channel.source]
    capture = bench.capture(source)
    block = bench.raw(project, channel)
    place = max(int(np.searchsorted(block.t, at_s, side="right")) - 1, 0)
    good = np.flatnonzero(block.usable[: place + 1])
    # Where none is usable, that may be what has to be explained.
    place = int(good[-1]) if len(good) else place
    t = float(block.t[place]) if len(block) else 0.0
    beside = {name: _value_at(each.x, each.t, t) for name, each in capture.columns.items() if name.isprintable()}
    return Truth(
        float(block.x[place]) if len(block) else float("nan"),
        reading,
        tolerance,
        said,
        _data_at((capture.decoded.frames if capture.decoded is not None else None) or (), t),
        beside if len(beside) > 1 else {},
        others_at(project, bench, channel, t),
        _edges_before(capture.lines, block.t, place) if source.decoding is not None else {},
    )


def _edges_before(lines: Mapping[str, Edges], times: Floats, place: int) -> dict[str, Edges]:
    """Edges of the last readings up to one."""
    if not len(times):
        return {}
    end = float(times[place])
    start = float(times[max(place - READINGS, 0)]) if place else end - 1.0
    return {name: each.between(start, end + AFTER * (end - start)) for name, each in lines.items() if len(each)}


def _value_at(x: Floats, times: Floats, t: float) -> float:
    place = int(np.searchsorted(times, t, side="right")) - 1
    return float(x[place]) if place >= 0 else float("nan")


def _data_at(frames: Sequence[object], t: float) -> bytes:
    """The bytes of the frame that ended at a time."""
    for frame in frames:
        if getattr(frame, "end", math.nan) >= t - 1e-9 and not getattr(frame, "mark", 1):
            data = getattr(frame, "data", b"")
            return bytes(data)
    return b""


def others_at(project: Project, bench: Bench, channel: Channel, t: float) -> Mapping[str, float]:
    """Readings at a time of the channels that its laws read."""
    out = {}
    for name in channel.chain.reads:
        try:
            x, _ = latest(bench.run(project, project.channels[name]).calm, np.array([t]))
            out[name] = float(x[0])
        except LesartError:
            out[name] = float("nan")
    return out


def truths_of_references(channel: Channel) -> tuple[Truth, ...]:
    """References that are used, as truths: the raw value is the one that laws give the indicated reading for.

    Each may be off by its own tolerance, by how it scattered, and by a last place of the channel's field.
    """
    found, place = [], float(last_place(channel.field))
    for each in channel.references:
        raw = channel.chain.raw_for(channel.correction.corrected(each.indicated))
        if each.used and math.isfinite(raw):
            found.append(Truth(raw, each.aim, max(each.tolerance, 2 * each.spread, place), each.taken))
    return tuple(found)
