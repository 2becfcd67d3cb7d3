"""Recognises panels of digits from bytes or lines: the active level, and the order in which segments are wired.

Segment wires are soldered as they fit, and probes hooked on as they come. Only one order, or a few, makes figures of
everything that was lit; that one is taken.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from functools import cache
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.controllers import ADDRESSED_DIGITS, DIGITS, NUMBERS
from lesart.core.glass.bus.interpreter import Interpreted, interpret
from lesart.core.glass.bus.known_display import KnownDisplay
from lesart.core.glass.bus.sent_bytes import ALL_LIT, LAST_DIGIT
from lesart.core.glass.panels.packing import MODULE_ROWS
from lesart.core.glass.panels.segment_panel import ADDRESSED, MOST_NUMBERED, NUMBERED_ORDER
from lesart.core.glyphs.segments import ALPHABETS
from lesart.core.quantity import counted
from lesart.core.raw.bus_bytes import Words
from lesart.core.raw.edges import Edges
from lesart.core.raw.talks.talk import Talk

SEGMENTS = "abcdefg."
"""Segments in the usual order of bits."""
ALL = 0xFF
_FIGURES = frozenset(
    ALPHABETS["7"].mask(lit)
    for lit in ("abcdef", "bc", "abdeg", "abcdg", "bcfg", "acdfg", "acdefg", "abc", "abcdefg", "abcdfg", "g", "")
)
_SHAPES = frozenset((*_FIGURES, *ALPHABETS["7"].shapes.values()))
"""Shapes, letters included, since a digit may always show one: the C after a temperature."""
CLOCK_PLACES, CLOCK_BIT = 5, 0x02
"""Places of a clock of four digits behind a driver with an address, and the bit that usually lights its colon."""
MOST_MASKS = 24
"""Most masks used, those lit most; more do not help to decide."""
FEWEST_MASKS = 6
"""Fewest lit masks; with fewer some order makes figures of anything."""
EACH_DIGIT = 0.8
SAMPLES = 200
"""Most on times of a digit that are sampled, over the whole trace."""
USUAL_ENOUGH, ORDER_ENOUGH = 0.9, 0.97
"""Share of figures from which the usual order is accepted, and one that was searched for."""
MOST_EQUALS = 8
"""With more orders that make figures, the number says nothing about segments."""
MIXED = 0.75
"""Greatest certainty of a display where several orders make figures."""

Masks = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Wired:
    """``order`` names the segment of each bit, from bit 0 on, or of each line in order; ``lit`` is the active level.

    ``share`` of what was lit are figures; ``equals`` is the number of orders that make as many.
    """

    order: str
    lit: int
    share: float
    equals: int = 1

    @property
    def is_usual(self) -> bool:
        """True for the usual order."""
        return SEGMENTS.startswith(self.order)

    def shown(self, masks: npt.ArrayLike) -> Masks:
        """Masks of lines or bits in the usual order."""
        lit = _lit(np.asarray(masks, np.int64), self.lit, len(self.order))
        found: Masks = sum(
            ((lit >> bit & 1) << SEGMENTS.index(each) for bit, each in enumerate(self.order)), np.zeros_like(lit)
        )
        return found

    @property
    def said(self) -> str:
        """Its order as the end of a clause, where that is not the usual one."""
        if self.is_usual:
            return ""
        others = f"{self.equals - 1} other{'s' * (self.equals > 2)}" if self.equals > 1 else "no other"
        return f" in the order {' '.join(self.order)}, and in {others}"


def figure_share(masks: npt.ArrayLike) -> float:
    """Share of non-dark bytes that light a figure, ignoring its point.

    A dark digit says nothing, and if a single figure is all that is ever lit, it may as well be some other byte.
    """
    bare = np.asarray(masks) & 0x7F
    lit = bare[bare > 0]
    if not len(lit):
        return 0.0
    known = np.isin(lit, sorted(_FIGURES))
    return float(np.mean(known)) * (1.0 if len(set(lit[known].tolist())) > 1 else 0.5)


def wired(masks: npt.ArrayLike, count: int = 8) -> Wired:
    """The wiring with which most of ``masks`` light figures; ``count`` is the number of lines or bits, 7 or 8.

    The usual order where that does, else the best of all orders, the least crossed of equals.
    """
    values = np.asarray(masks, np.int64) & ((1 << count) - 1)
    usual = max((Wired(SEGMENTS[:count], lit, figure_share(_lit(values, lit, count))) for lit in (1, 0)), key=_share)
    if usual.share >= USUAL_ENOUGH:
        return usual
    sought = max((_sought(_lit(values, lit, count), lit, count) for lit in (1, 0)), key=_share)
    return sought if sought.share >= ORDER_ENOUGH and sought.equals <= MOST_EQUALS else usual


def _share(found: Wired) -> float:
    return found.share


def _lit(values: Masks, lit: int, count: int) -> Masks:
    return values if lit else values ^ ((1 << count) - 1)


def _sought(masks: Masks, lit: int, count: int) -> Wired:
    """The best of all orders: with most figures, then with the point lit least, as one digit of a number has a point,
    then with most bits at their usual positions."""
    seen, times = np.unique(masks, return_counts=True)
    often = np.argsort(-times, kind="stable")[:MOST_MASKS]
    seen, times = seen[often], times[often]
    if np.count_nonzero(seen) < FEWEST_MASKS:
        return Wired(SEGMENTS[:count], lit, 0.0)
    orders = _orders(count)
    shown = np.zeros((len(orders), len(seen)), np.int64)
    for bit in range(count):
        shown |= (seen >> bit & 1)[None, :] << orders[:, bit : bit + 1]
    figures = np.isin(shown & 0x7F, sorted(_FIGURES)) @ times / times.sum()
    points = (shown >> 7) @ times / times.sum()
    best = np.flatnonzero(figures >= figures.max() - 1e-9)
    best = best[points[best] <= points[best].min() + 1e-9]
    crossed = (orders[best] != np.arange(count)).sum(axis=1)
    order = orders[best[int(np.argmin(crossed))]]
    return Wired("".join(SEGMENTS[place] for place in order), lit, float(figures.max()), len(best))


@cache
def _orders(count: int) -> Masks:
    """Every order of the segments, shape (count!, count): the index in ``SEGMENTS`` of each bit."""
    return np.array(list(itertools.permutations(range(count))), np.int64)


# Through registers


def registers(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Registers with segments of all digits, or of one digit with bits that select it."""
    sizes = np.bincount(words.part)
    usual = int(np.bincount(sizes).argmax())
    if not 1 <= usual <= 16 or float(np.mean(sizes == usual)) < 0.8:
        return
    rows = np.array([words.value[words.part == part] for part in np.flatnonzero(sizes == usual)[:2000]])
    alike = float(np.mean(sizes == usual))
    if usual == 2:
        yield from _numbered(words, trace)
        yield from _chosen(rows, trace)
    if usual % 2 == 0 and usual > 2:
        yield from _modules(words, usual // 2, trace)
    lights = wired(rows.reshape(-1))
    # Each byte is a digit: one that is not makes the others something else too.
    if np.isin(lights.shown(rows) & 0x7F, sorted(_SHAPES)).mean(axis=0).min() < EACH_DIGIT:
        return
    panel = {"kind": "segments", "digits": usual, "drive": "shift registers"} | _wiring(lights)
    size, figures = counted(usual, "byte"), round(100 * lights.share)
    why = f"{round(100 * alike)} % of the transmissions have {size}, and {figures} % of those light a figure"
    yield KnownDisplay(panel, dict(trace), _no_surer(min(0.95, alike * lights.share), lights), why + lights.said)


def _modules(words: Words, count: int, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Chained modules: of two bytes for each, the first is the same number in all, of a row from 1 to 8 or of a
    setting."""
    sizes = np.bincount(words.part)
    rows = np.array([words.value[words.part == part] for part in np.flatnonzero(sizes == 2 * count)[:2000]])
    numbers = rows.reshape(len(rows), count, 2)[:, :, 0]
    told = numbers[:, 0]
    alike = (numbers == told[:, None]).all(axis=1) & (told <= ALL_LIT)
    times = np.bincount(told[alike & (told >= 1) & (told <= MOST_NUMBERED)], minlength=MOST_NUMBERED + 1)[1:]
    if float(np.mean(alike)) < 0.95 or np.count_nonzero(times) < MOST_NUMBERED:
        return
    panel = {"kind": "pixels", "width": 8 * count, "height": 8, "light": "red", "bytes": MODULE_ROWS}
    panel |= {"low_first": False, "bus": "four-wire", "dots": "round", "pitch": "4 mm"}
    share = float(np.mean(alike))
    why = (
        f"{round(100 * share)} % of the transmissions have the same number for {count} modules; no byte says which way "
        "round they lie"
    )
    yield KnownDisplay(panel, dict(trace), 0.96 * share, why)


def _numbered(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """A numbered driver: of two bytes the first is a digit's number, or that of a setting, from 9 on."""
    pairs = words.value[: 2 * (len(words) // 2)].reshape(-1, 2)
    to_digit = (pairs[:, 0] >= 1) & (pairs[:, 0] <= MOST_NUMBERED)
    times = np.bincount(pairs[to_digit, 0], minlength=2)[1:]
    is_driver = bool((pairs[:, 0] > MOST_NUMBERED).any())
    # All digits are sent about equally often, unlike the numbered settings of other devices.
    evenly = len(times) > 1 and bool(times.all()) and times.max() <= 2 * times.min() + 2
    if np.count_nonzero(times) < 2 or int(pairs[:, 0].max()) > ALL_LIT or not (is_driver or evenly):
        return
    obeyed = interpret(NUMBERS, words, NUMBERS.columns, NUMBERS.pages)
    wiring = Wired(NUMBERED_ORDER.replace(" ", ""), 1, 0.0)
    share = figure_share(wiring.shown(obeyed.value))
    told = pairs[pairs[:, 0] == LAST_DIGIT, 1]
    digits = int(told[-1]) + 1 if len(told) else int(obeyed.cell.max()) + 1
    panel = {"kind": "segments", "digits": digits, "drive": "numbered driver", "chain": _way_round(obeyed, wiring)}
    why = f"of two bytes the first is the number of a digit, and {round(100 * share)} % of the others light a figure"
    yield KnownDisplay(panel, dict(trace), min(0.98, 0.3 + 0.68 * share), why)


def _way_round(obeyed: Interpreted, wiring: Wired) -> str:
    """Direction of the digits: a short number has its dark digits at the left; usually number 1 is at the right."""
    ends = (0, int(obeyed.cell.max()))
    dark = [int((wiring.shown(obeyed.value[obeyed.cell == place]) == 0).sum()) for place in ends]
    return "left to right" if dark[0] > dark[1] else "right to left"


def _chosen(rows: np.ndarray, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """Selected digits: of two bytes one has a single bit unlike the others, selecting the digit, and the other lights
    figures."""
    for choice, lit in ((1, 0), (0, 1)):
        for high in (False, True):
            chosen = rows[:, choice] if high else rows[:, choice] ^ ALL
            one = np.isin(chosen, [1 << place for place in range(8)])
            digits = int(chosen[one].max()).bit_length() if one.any() else 0
            if float(np.mean(one)) < 0.9 or digits < 2:
                continue
            lights = wired(rows[:, lit])
            panel = {"kind": "segments", "digits": digits, "drive": "scanned through registers"} | _wiring(lights)
            panel |= {"chosen": "the byte before"} if choice == 0 else {}
            panel |= {"chosen_low": False} if high else {}
            figures = round(100 * lights.share)
            why = f"of two bytes each one chooses a digit, and {figures} % of the others light a figure{lights.said}"
            yield KnownDisplay(panel, dict(trace), _no_surer(min(0.97, 0.3 + 0.67 * lights.share), lights), why)


def _wiring(lights: Wired) -> dict[str, Any]:
    """The wiring as values of a panel."""
    return {"common": "cathode" if lights.lit else "anode"} | (
        {} if lights.is_usual else {"order": " ".join(lights.order)}
    )


def _no_surer(sure: float, lights: Wired) -> float:
    return min(sure, MIXED) if lights.equals > 1 else sure


# By a driver of its own, and by lines


def driven(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """A digit driver with two lines."""
    obeyed = interpret(DIGITS, words, DIGITS.columns, DIGITS.pages)
    if not len(obeyed):
        return
    last = int(obeyed.cell.max()) + 1
    digits = next(each for each in (4, 6, 8, 16) if each >= last)
    share = figure_share(obeyed.value.astype(np.uint8))
    panel = {"kind": "segments", "digits": digits, "drive": "two-line driver"}
    why = f"{round(100 * share)} % of {counted(len(obeyed), 'byte')} light a figure, in {counted(digits, 'digit')}"
    yield KnownDisplay(panel, dict(trace), min(0.97, 0.5 + 0.47 * share), why)


def addressed(words: Words, trace: Mapping[str, Any]) -> Iterator[KnownDisplay]:
    """A driver with an address: woken and switched on by one-byte commands, with two bytes per digit position."""
    firsts = np.unique(words.part, return_index=True)[1]
    sizes = np.diff(np.append(firsts, len(words)))
    told = [ADDRESSED_DIGITS.find(int(words.value[at])) for at in firsts]
    known = sum(
        command is not None and (size == 1) == (command.does != "address")
        for command, size in zip(told, sizes.tolist(), strict=True)
    )
    if known < 0.95 * len(told) or not any(command is not None and command.does == "address" for command in told):
        return
    obeyed = interpret(ADDRESSED_DIGITS, words, ADDRESSED_DIGITS.columns, ADDRESSED_DIGITS.pages)
    low = obeyed.cell % 2 == 0
    wide = bool((obeyed.value[~low] != 0).any())
    figures = {place: _seen(obeyed, 2 * place) for place in range(ADDRESSED_DIGITS.columns // 2)}
    # A position that had more than one segment lit has a digit, and so have those before it, where numbers were short.
    last = max((place for place, seen in figures.items() if any(each.bit_count() > 1 for each in seen)), default=-1)
    if last < 0:
        return
    # A four-digit clock has its colon in one bit of the middle one of five positions.
    is_clock = last == CLOCK_PLACES - 1 and all(each.bit_count() <= 1 for each in figures[CLOCK_PLACES // 2])
    digits = [place for place in range(last + 1) if not (is_clock and place == CLOCK_PLACES // 2)]
    lit = obeyed.value[low & np.isin(obeyed.cell // 2, digits) & (obeyed.value != 0)].astype(np.uint8)
    share = 1.0 if wide else figure_share(lit)
    panel: dict[str, Any] = {"kind": "segments", "digits": len(digits), "drive": ADDRESSED}
    if is_clock:
        bits = max(figures[CLOCK_PLACES // 2], default=0) or CLOCK_BIT
        panel |= {"points": False, "colons": str(CLOCK_PLACES // 2), "chain": "1 2 - 3 4"}
        panel["colons_at"] = f"{2 * (CLOCK_PLACES // 2)} {bits.bit_length() - 1}"
    panel |= {"segments": "14"} if wide else {}
    about = "two bytes a place" if wide else f"{round(100 * share)} % of its bytes light a figure"
    why = f"{counted(len(told), 'transmission')} to a driver with sixteen bytes, {about}, in {len(digits)} digits"
    yield KnownDisplay(panel, dict(trace), min(0.97, 0.5 + 0.47 * share), why)


def _seen(obeyed: Interpreted, cell: int) -> set[int]:
    return set(obeyed.value[obeyed.cell == cell].tolist())


def scanned(talk: Talk, lines: Mapping[str, Edges]) -> KnownDisplay:
    """Digits on lines of their own: the active level of segments, and the order of the lines, by what they show."""
    digits, segments = talk.line("digits").split(" "), talk.line("segments").split(" ") if talk.line("segments") else []
    on = dict(talk.values)["digit_on"]
    lights = Wired(SEGMENTS, 1, 0.0)
    sure, why = talk.sure, talk.why
    if len(segments) in (7, 8):
        masks = _masks([lines[name] for name in digits], [lines[name] for name in segments], int(on == "high"))
        lights = wired(masks, len(segments))
        by_segment = dict(zip(lights.order, segments, strict=True))
        segments = [by_segment[each] for each in SEGMENTS if each in by_segment]
        sure = _no_surer(sure * (0.5 + 0.5 * lights.share), lights)
        why = f"{round(100 * lights.share)} % of what is lit in turn are figures{lights.said}"
    panel: dict[str, Any] = {"kind": "segments", "digits": len(digits), "common": "cathode" if lights.lit else "anode"}
    trace = {"digits": " ".join(digits), "segments": " ".join(segments)}
    trace |= {"digit_on": on} if on != "high" else {}
    trace |= {"segment_on": "low"} if not lights.lit else {}
    return KnownDisplay(panel, trace, sure, why)


def _masks(digits: Sequence[Edges], segments: Sequence[Edges], level: int) -> Masks:
    """Segment lines in the middle of the digits' on times, the first line in bit 0."""
    found = []
    for line in digits:
        places = np.flatnonzero(line.level[:-1] == level)
        places = places[:: max(len(places) // SAMPLES, 1)]
        middle = (line.t[places] + line.t[places + 1]) / 2
        found.append(sum((each.level_at(middle) == 1).astype(np.int64) << bit for bit, each in enumerate(segments)))
    return np.concatenate([np.atleast_1d(each) for each in found])
