"""A bus trace compared with the face: which drawings were made, what they changed, how long the glass was wrong."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.interpreter import GLYPHS, Cells, Interpreted
from lesart.core.notes import DOUBT, REMARK, Note
from lesart.core.pace.verdict import Verdict, judged
from lesart.core.quantity import plain_number
from lesart.core.raw.bus_bytes import Words
from lesart.core.step import Step

Expected = Callable[[float], Cells]
"""Expected cells after a drawing that begins at a given time; −1 where it does not matter."""
MOST_WASTED = 0.75
"""Above this share of bytes that change nothing, drawing only changes is worth it."""
MOST_DRAWINGS = 500
"""Most drawings compared with the face: what is wrong shows long before."""
SLOWER = 0.9
"""Of the wanted rate: below it is slower than the face says."""


@dataclass(frozen=True)
class Redraw:
    """Cells ``first`` up to ``behind`` of what was obeyed. ``changed`` of them held something else before.

    ``differs`` pixels, cells or segments are not as they should be when it is done; ``wrong_s`` is how long any was not
    from its start to the start of the next one.
    """

    first: int
    behind: int
    start_s: float
    end_s: float
    changed: int
    differs: int
    wrong_s: float

    @property
    def written(self) -> int:
        """Number of cell writes."""
        return self.behind - self.first


@dataclass(frozen=True)
class Against:
    """All drawings of a trace, compared with what they should show; ``unit`` is what differences are counted in."""

    redraws: tuple[Redraw, ...]
    looked_s: float
    unit: str
    drawings: int = 0
    """Number in the whole trace; more than ``redraws`` where there are very many."""

    @property
    def wrong_s(self) -> float:
        """Total time that the glass was wrong, in seconds."""
        return sum(each.wrong_s for each in self.redraws)

    @property
    def wasted(self) -> float:
        """Share of cell writes that changed nothing, 0 to 1. The first drawing does not count."""
        written = sum(each.written for each in self.redraws[1:])
        return 1.0 - sum(each.changed for each in self.redraws[1:]) / written if written else 0.0

    @property
    def rate_hz(self) -> float:
        """Drawings per second, from the first one to the last; 0 for fewer than two."""
        if len(self.redraws) < 2:
            return 0.0
        return (len(self.redraws) - 1) / (self.redraws[-1].start_s - self.redraws[0].start_s)


def weighed(cells: Cells, wanted: Cells, *, by_bits: bool) -> Cells:
    """Difference of each cell, shape (cells,): in bits, or 0 and 1; 0 where nothing is expected."""
    different = np.where(wanted >= 0, cells ^ np.maximum(wanted, 0), 0)
    if not by_bits:
        differ: Cells = (different != 0).astype(np.int64)
        return differ
    bits: Cells = np.unpackbits(different.astype(">u4").view(np.uint8).reshape(-1, 4), axis=1).sum(axis=1)
    return bits.astype(np.int64)


def drawings_of(obeyed: Interpreted, gap_s: float) -> tuple[tuple[int, int], ...]:
    """First and one past the last cell of each drawing: a pause of ``gap_s`` ends one."""
    if not len(obeyed):
        return ()
    borders = np.flatnonzero(np.diff(obeyed.t) > gap_s) + 1
    edges = [0, *borders.tolist(), len(obeyed)]
    return tuple(itertools.pairwise(edges))


def held_against(
    obeyed: Interpreted, words: Words, expected: Expected, gap_s: float, end_s: float, *, by_bits: bool, unit: str
) -> Against:
    """Every drawing compared cell by cell. ``by_bits`` counts pixels and segments, not whole cells."""
    spans = drawings_of(obeyed, gap_s)
    cells = obeyed.memory(0)[: obeyed.columns * obeyed.pages]
    found = []
    for place, (first, behind) in enumerate(spans[:MOST_DRAWINGS]):
        start_s = _begins(words, int(obeyed.part[first]), int(obeyed.part[first - 1]) if first else -1, gap_s)
        until_s = float(obeyed.t[spans[place + 1][0]]) if place + 1 < len(spans) else end_s
        wanted = expected(start_s)
        redraw = _followed(obeyed, first, behind, cells, wanted, (start_s, until_s), by_bits)
        # What was there before the first one is unknown.
        found.append(redraw if place or redraw.differs else replace(redraw, wrong_s=0.0))
    looked_until = float(obeyed.t[spans[len(found)][0]]) if len(found) < len(spans) else end_s
    looked = looked_until - found[0].start_s if found else 0.0
    return Against(tuple(found), looked, unit, len(spans))


def _begins(words: Words, part: int, before: int, gap_s: float) -> float:
    """Start of a drawing: that of the commands that lead to its first byte of data."""
    while part > before + 1 and words.start_s[part] - words.end_s[part - 1] <= gap_s:
        part -= 1
    return float(words.start_s[part])


def _followed(
    obeyed: Interpreted, first: int, behind: int, cells: Cells, wanted: Cells, span: tuple[float, float], by_bits: bool
) -> Redraw:
    """Follow a drawing write by write: how many cells differ, and since when. ``cells`` are updated."""
    weights = weighed(cells, wanted, by_bits=by_bits)
    differs, changed, wrong_s, since = int(weights.sum()), 0, 0.0, span[0]
    for t, cell, value in zip(
        obeyed.t[first:behind].tolist(),
        obeyed.cell[first:behind].tolist(),
        obeyed.value[first:behind].tolist(),
        strict=True,
    ):
        if cell >= GLYPHS:
            continue
        if differs:
            wrong_s += t - since
        since = t
        changed += int(cells[cell] != value)
        cells[cell] = value
        aim = int(wanted[cell])
        now = 0 if aim < 0 else (value ^ aim).bit_count() if by_bits else int(value != aim)
        differs += now - int(weights[cell])
        weights[cell] = now
    if differs:
        wrong_s += span[1] - since
    return Redraw(
        first=first,
        behind=behind,
        start_s=span[0],
        end_s=float(obeyed.t[behind - 1]),
        changed=changed,
        differs=differs,
        wrong_s=wrong_s,
    )


def traced_verdicts(
    panel: str,
    against: Against,
    words: Words,
    obeyed: Interpreted,
    wanted_hz: float,
    bus_s: float,
    *,
    is_judged: bool = True,
) -> tuple[Verdict, ...]:
    """``wanted_hz`` is how often its face says it is drawn, ``bus_s`` what the model takes for one drawing.

    ``is_judged``: it was compared with the face of a known moment.
    """
    if not against.redraws:
        nothing = judged(
            "drawings in the trace",
            0,
            "",
            1,
            panel,
            "the trace holds no byte of data for it.",
            "check the address, the lines and how commands are told from data",
            at_least=True,
        )
        return (nothing, *_troubles(panel, words, obeyed))
    took = max(each.end_s - each.start_s for each in against.redraws)
    wrong = 100 * against.wrong_s / against.looked_s if against.looked_s else 0.0
    beside_face = (_differing(panel, against), Verdict("glass was wrong", wrong, "%", of=panel))
    return (
        *(beside_face if is_judged else (_not_judged(panel, against),)),
        *_rate(panel, against, wanted_hz),
        Verdict("longest drawing, traced", 1000 * took, "ms", of=panel),
        Verdict("a drawing, by the model", 1000 * bus_s, "ms", of=panel),
        _wasted(panel, against),
        *_troubles(panel, words, obeyed),
    )


def _not_judged(panel: str, against: Against) -> Verdict:
    """The verdict where the expected content is unknown: that is not the same as right."""
    said = f"{panel}: its trace cannot be compared, because it does not say when it began."
    note = Note(
        REMARK,
        Step.PACE,
        None,
        said,
        remedy="set starts at, the moment of the captures at which it begins",
        panel=panel,
    )
    return Verdict(f"{against.unit} that differ: not judged", float("nan"), "", note=note, of=panel)


def _differing(panel: str, against: Against) -> Verdict:
    place = max(range(len(against.redraws)), key=lambda each: against.redraws[each].differs)
    worst = against.redraws[place].differs
    return judged(
        f"{against.unit} that differ",
        worst,
        "",
        0.0,
        panel,
        f"drawing {place + 1} of the trace leaves {worst} {against.unit} different from its face.",
        "look at it on the leaf trace; , . go from transmission to transmission",
    )


def _rate(panel: str, against: Against, wanted_hz: float) -> list[Verdict]:
    if not against.rate_hz:
        return []
    says = (
        f"drawn {plain_number(against.rate_hz, 3)} times a second in the trace; its face says "
        f"{plain_number(wanted_hz, 3)}."
    )
    return [
        judged(
            "drawings a second, traced",
            against.rate_hz,
            "/s",
            SLOWER * wanted_hz,
            panel,
            says,
            "the loop has less time than it is thought to have",
            at_least=True,
            mark=DOUBT,
        )
    ]


def _wasted(panel: str, against: Against) -> Verdict:
    share = plain_number(100 * against.wasted, 2)
    return judged(
        "bytes that change nothing",
        100 * against.wasted,
        "%",
        100 * MOST_WASTED,
        panel,
        f"{share} % of the bytes that the trace sends change nothing.",
        "draw only what changed",
        mark=DOUBT,
    )


def _troubles(panel: str, words: Words, obeyed: Interpreted) -> list[Verdict]:
    """Verdicts on what is not a drawing: no acknowledge, bits left over, an unknown command."""
    found = (
        ("transmissions not answered", words.refused, "were not acknowledged to the end"),
        ("transmissions with bits over", words.broken, "have bits left over"),
        ("bytes that are not a command", len(obeyed.unknown), "are not commands of its controller"),
        ("bytes beside its memory", obeyed.beside, "went where no cell is"),
    )
    return [
        judged(
            name,
            count,
            "",
            0.0,
            panel,
            f"{count} {name.partition(' ')[0]} of the trace {said}.",
            "check the wires and the controller",
            mark=DOUBT,
        )
        for name, count, said in found
        if count
    ]
