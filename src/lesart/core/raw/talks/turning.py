"""Talks that are not a code: pulses, bouncing contacts, encoders, scanned digits, strobes with parallel data."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations

import numpy as np

from lesart.core.quantity import counted, plain_number
from lesart.core.raw.decode.quadrature import steps_of
from lesart.core.raw.edges import HIGH, LOW
from lesart.core.raw.talks.seen_line import SeenLine
from lesart.core.raw.talks.talk import PARALLEL, SCANNED, TRIGGER, Talk, is_called, pairs

FEWEST_ECHOES = 4
ALIKE, SOON_BEHIND = 0.3, 0.5
"""How far the widths of triggers, and the times until their answers, may differ, as shares of the usual one."""
APART = 4.0
"""An answer on the trigger's own line is at least this many times as long as the trigger."""
SHORT_DUTY = 0.02
"""A trigger is this short compared with the times between; scanned digits follow each other too."""
BOUNCE_S = 20e-3
"""No contact bounces for longer."""
FEW = 16
SOON = 20.0
"""Share of the usual time between strobes within which a data line changes before one."""
MOST_DIGITS = 16
LINES_A_DIGIT = (8, 7, 17, 16, 15, 14)
"""Lines per digit, with and without a point, of seven, sixteen and fourteen segments."""
FEWEST_SEGMENTS = 2
"""Fewest segments that change from digit to digit before constant lines are taken for segments too."""
STEADY = 0.25
STEADY_PULSES = 0.02
"""How far the pulses of a timer may differ, so that their duty cycle is a set value."""


def look_at_echoes(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Echoes: a line of equal pulses, and one that answers each of them by a pulse whose width is the value."""
    for trigger, answer in pairs(lines):
        asked, came = trigger.lasting(HIGH), answer.lasting(HIGH)
        if len(asked) < FEWEST_ECHOES or not len(came) or (trigger.rests_at, answer.rests_at) != (LOW, LOW):
            continue
        if _spread(asked) > ALIKE or trigger.duty > SHORT_DUTY or not 0.8 <= len(came) / len(asked) <= 1.05:
            continue
        behind = answer.rises - trigger.falls[np.searchsorted(trigger.falls, answer.rises, side="right") - 1]
        places = np.searchsorted(trigger.falls, answer.rises, side="right")
        each_once = len(np.unique(places)) == len(places) and bool((places > 0).all())
        period = float(np.median(np.diff(trigger.rises)))
        if not each_once or not 0 < float(np.median(behind)) < 0.2 * period or _spread(behind) > SOON_BEHIND:
            continue
        lasts, count = plain_number(1e6 * float(np.median(asked)), 3), counted(len(asked), "pulse")
        low, high = (plain_number(1e3 * float(each), 3) for each in (came.min(), came.max()))
        widths = f"{low} ms" if low == high else f"{low} to {high} ms"
        silent = f", but for {len(asked) - len(came)}" if len(came) < len(asked) else ""
        why = f"{count} of {lasts} µs, after each of which {answer.name} has one{silent}"
        yield Talk(TRIGGER, (("line", trigger.name),), 0.85, why, weight=float(len(trigger)))
        why = f"one after each pulse of {trigger.name}{silent}, {widths} long"
        yield Talk("pulse width", (("line", answer.name),), 0.86, why, weight=float(len(answer)))


def look_at_pulses(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Pulses, where nothing else fits: widths where those vary more than the times between, else intervals."""
    for line in lines.values():
        if len(line) < 2:
            continue
        bounce = _bounce(line)
        high, low = line.lasting(HIGH), line.lasting(LOW)
        values: tuple[tuple[str, object], ...] = ()
        if bounce is not None:
            shortest, count = bounce
            values = (("shortest", f"{shortest * 1e3:.3g} ms"), ("dated", "first edge"))
            why = f"{counted(count, 'edge')} within milliseconds of others: a contact that bounces"
            yield Talk("pulse interval", (("line", line.name),), 0.6, why, values, float(len(line)))
            continue
        echo = _own_echo(line)
        if echo is not None:
            yield echo
            continue
        periods = np.diff(line.rises)
        if len(high) > 2 and len(periods) > 1 and _spread(high) > 3 * _spread(periods) + 0.005:
            level = "high" if line.rests_at == LOW else "low"
            told = (("level", level),) if level == "low" else ()
            active = low if level == "low" else high
            narrow, wide, every = (
                plain_number(1e3 * float(each), 3) for each in (active.min(), active.max(), np.median(periods))
            )
            why = f"{counted(len(active), 'pulse')}, one every {every} ms, {narrow} to {wide} ms wide"
            yield Talk("pulse width", (("line", line.name),), 0.5, why, told, float(len(line)))
            continue
        # The edge at which the line leaves its idle level is the event.
        told = (("edge", "falling"),) if line.rests_at == HIGH and line.duty < 0.45 else ()
        why = f"{counted(len(line), 'edge')} and no code in them"
        if len(periods) > 1:
            rate = 1.0 / float(np.median(periods)) if float(np.median(periods)) > 0 else 0.0
            pulses = counted(len(low) if line.rests_at == HIGH else len(high), "pulse")
            duty = float(np.median(high)) * rate if len(high) else 0.0
            is_steady = len(high) > FEW and max(_spread(high), _spread(periods)) < STEADY_PULSES and 0 < duty < 1
            on = f", high for {plain_number(100 * duty, 2)} % of the time" if is_steady else ""
            why = f"{pulses}, usually {plain_number(rate, 4)} a second{on}, and no code in them"
        yield Talk("pulse interval", (("line", line.name),), 0.4, why, told, float(len(line)))


def _own_echo(line: SeenLine) -> Talk | None:
    """A one-pin ranger: triggered by a short pulse, it answers by one on the same line."""
    high = line.lasting(HIGH)
    if line.rests_at != LOW or len(high) < 2 * FEWEST_ECHOES or len(line.rises) != len(high):
        return None
    asked, came = high[::2], high[1::2]
    until = line.rises[1::2] - line.rises[: len(came) * 2 : 2] - asked[: len(came)]
    period = float(np.median(np.diff(line.rises[::2])))
    if _spread(asked) > ALIKE or came.min() < APART * asked.max() or _spread(until) > SOON_BEHIND:
        return None
    if not 0 < float(np.median(until)) < 0.2 * period:
        return None
    lasts = plain_number(1e6 * float(np.median(asked)), 3)
    low, high_ms = (plain_number(1e3 * float(each), 3) for each in (came.min(), came.max()))
    shortest = f"{1e6 * math.sqrt(float(asked.max()) * float(came.min())):.3g} µs"
    why = f"one after each pulse of {lasts} µs on the same line, {low} to {high_ms} ms long"
    return Talk("pulse width", (("line", line.name),), 0.8, why, (("shortest", shortest),), float(len(line)))


def _spread(values: np.ndarray) -> float:
    """Spread of the middle of all values, as a share of their median."""
    usual = float(np.median(values)) if len(values) else 0.0
    low, high = np.percentile(values, [10, 90]) if len(values) else (0.0, 0.0)
    return float(high - low) / usual if usual > 0 else 0.0


def _bounce(line: SeenLine) -> tuple[float, int] | None:
    """A limit between bounces and real pulses, and the number of edges from bounces; None where nothing bounces."""
    lasts = line.pulses
    short = lasts[lasts < BOUNCE_S / 2]
    long = lasts[lasts >= BOUNCE_S / 2]
    if len(long) < 2 or not len(short) or len(short) > 6 * len(long):
        return None
    # Both levels of a contact last: where only one does, the short pulses are the signal.
    if len(set(line.head.level[:-1][lasts >= BOUNCE_S / 2].tolist())) < 2:
        return None
    # A bounce goes there and back: short times come in pairs, where those of a plain pulse come alone.
    runs = np.diff(np.concatenate(([-1], np.flatnonzero(lasts >= BOUNCE_S / 2), [len(lasts)]))) - 1
    if float(np.mean(runs[runs > 0] > 1)) < 0.4:
        return None
    quickest, longest = float(long.min()), float(short.max())
    if quickest < 3 * longest or len(long) < 0.15 * len(lasts):
        return None
    return float(np.sqrt(longest * min(quickest, 30 * longest))), 2 * len(short)


def look_at_encoders(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Encoders: pairs of lines that change in turn, each as often as the other."""
    for a, b in combinations(lines.values(), 2):
        if min(len(a), len(b)) < FEW or max(len(a), len(b)) > 1.4 * min(len(a), len(b)):
            continue
        if not all(_is_about_half(line) for line in (a, b)):
            continue
        end = min(a.head.end_s, b.head.end_s)
        t, steps = steps_of(a.until(end), b.until(end))
        if len(t) < FEW:
            continue
        bad = float(np.mean(steps == 2))
        # Each edge of one is mostly followed by one of the other; a clock and its data are not.
        whose = np.isin(t, a.edges.t)
        turns = float(np.mean(whose[1:] != whose[:-1]))
        same_way = float(np.mean(steps[1:] == steps[:-1]))
        if bad > 0.02 or turns < 0.8 or same_way < 0.75:
            continue
        first, second = (a, b) if not _is_b(a.name) else (b, a)
        on, back, never = (int((steps == step).sum()) for step in (1, -1, 2))
        why = f"{counted(len(t), 'quarter')} in turn, {on} one way and {back} the other, {never} impossible"
        yield Talk(
            "quadrature",
            (("a", first.name), ("b", second.name)),
            min(0.97, turns * same_way * (1 - 5 * bad)),
            why,
            weight=float(len(a) + len(b)),
        )


def _is_about_half(line: SeenLine) -> bool:
    """True where it is high and low for about as long while it moves."""
    high, low = (line.lasting(level) for level in (HIGH, LOW))
    return len(high) > 2 and len(low) > 2 and 0.1 < float(np.median(high)) / float(np.median(low)) < 10


def _is_b(name: str) -> bool:
    return bool(re.search(r"(?:^|[_.\W])(?:b|dt|phase_?b|chb)\d*$", name.lower()))


# Digits in turn


def look_at_digits(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """Scanned digits: lines of which one at a time is on, in rotation, and others that change with them: the
    segments."""
    group = _in_turn(lines)
    if group is None:
        return
    digits, on = group
    switch = np.sort(np.concatenate([line.head.t for line in digits]))
    end = min(line.head.end_s for line in digits)
    slot = _slot(digits, on)
    others = [line for line in lines.values() if line not in digits]
    segments = [line for line in others if _changes_with(line, switch, end, 0.12 * slot)]
    changing = len(segments)
    segments = _as_segments(_filled_up(segments, others))
    digits = _ordered(digits)
    share = 1.0 - _overlap(digits, on, end)
    rate = 1.0 / float(np.median(np.diff(digits[0].rises if on == HIGH else digits[0].falls)))
    with_segments = f", and {counted(changing, 'line')} change{'s' * (changing == 1)} when they do" if changing else ""
    if changing and not segments:
        with_segments += ", which are not all lines of a digit"
    why = f"{len(digits)} lines are on in turn, {plain_number(rate, 4)} times a second{with_segments}"
    yield Talk(
        SCANNED,
        (("digits", " ".join(line.name for line in digits)), ("segments", " ".join(line.name for line in segments))),
        min(0.98, share * (0.97 if segments else 0.7)),
        why,
        (("digit_on", "high" if on == HIGH else "low"),),
        float(sum(map(len, [*digits, *segments]))),
    )


def _filled_up(segments: list[SeenLine], others: Sequence[SeenLine]) -> list[SeenLine]:
    """Segments filled up with constant lines, as of a segment that all digits have, or none; empty where there are too
    few lines for a digit."""
    still = [line for line in others if not len(line) and line not in segments]
    missing = next((count - len(segments) for count in LINES_A_DIGIT if 0 <= count - len(segments) <= len(still)), None)
    if missing is None or len(segments) < FEWEST_SEGMENTS:
        return []
    # Probes are hooked on side by side.
    among = float(np.median([others.index(line) for line in segments]))
    nearest = sorted(still, key=lambda line: abs(others.index(line) - among))[:missing]
    return [line for line in others if line in segments or line in nearest]


def _in_turn(lines: Mapping[str, SeenLine]) -> tuple[list[SeenLine], int] | None:
    """The largest group of lines with one period of which one at a time is at its rarer level."""
    regular = [line for line in lines.values() if len(line) >= FEW and line.duty < 0.55 and _is_steady(line)]
    best: tuple[list[SeenLine], int] | None = None
    for level in (HIGH, LOW):
        own = [line for line in regular if line.rests_at == 1 - level]
        for line in own:
            period = _period(line)
            # All digits are on for equally long; a segment is only while figures need it.
            alike = [other for other in own if abs(_period(other) - period) < 0.02 * period and _as_often(other, line)]
            group = _exclusive(alike, level)
            if not 2 <= len(group) <= MOST_DIGITS:
                continue
            better = best is None or (len(group), -sum(each.duty for each in group)) > (
                len(best[0]),
                -sum(each.duty for each in best[0]),
            )
            if sum(other.duty for other in group) > 0.4 and better:
                best = group, level
    return best


def _as_often(line: SeenLine, other: SeenLine) -> bool:
    """True where both change about as often."""
    return abs(len(line) - len(other)) <= 4 + 0.03 * len(other)


def _exclusive(lines: Sequence[SeenLine], level: int) -> list[SeenLine]:
    """Those of which one at a time is on, the shortest times first: a segment of one digit alone stays on a little
    longer than the digit itself."""
    group: list[SeenLine] = []
    for line in sorted(lines, key=lambda each: (round(each.duty, 4), _names_segment(each.name))):
        end = min(each.head.end_s for each in (line, *group))
        if not group or all(_overlap((line, other), level, end) < 0.05 for other in group):
            group.append(line)
    return group


def _period(line: SeenLine) -> float:
    moments = line.rises if line.rests_at == LOW else line.falls
    return float(np.median(np.diff(moments))) if len(moments) > 2 else 0.0


def _is_steady(line: SeenLine) -> bool:
    moments = line.rises if line.rests_at == LOW else line.falls
    if len(moments) < 4:
        return False
    steps = np.diff(moments)
    usual = float(np.median(steps))
    return bool(np.mean(np.abs(steps - usual) < STEADY * usual) > 0.8)


def _slot(digits: Sequence[SeenLine], on: int) -> float:
    return float(np.median(np.concatenate([line.lasting(on) for line in digits])))


def _overlap(lines: Sequence[SeenLine], level: int, end: float) -> float:
    """Share of a line's on times in whose middle another line is on too."""
    moments = []
    for line in lines:
        head = line.until(end)
        places = np.flatnonzero(head.level[:-1] == level)[:400]
        moments.append((head.t[places] + head.t[places + 1]) / 2)
    at = np.sort(np.concatenate(moments))
    on = sum((line.edges.level_at(at) == level).astype(int) for line in lines)
    return float(np.mean(np.asarray(on) > 1)) if len(at) else 1.0


def _changes_with(line: SeenLine, switch: np.ndarray, end: float, within: float) -> bool:
    """True where a line changes only where digits go on or off, or never."""
    edges = line.until(end)
    if not len(edges):
        return _names_segment(line.name)
    place = np.clip(np.searchsorted(switch, edges.t), 1, len(switch) - 1)
    away = np.minimum(np.abs(edges.t - switch[place - 1]), np.abs(edges.t - switch[place]))
    return bool(np.mean(away <= within) > 0.95)


def _names_segment(name: str) -> bool:
    return bool(re.fullmatch(r"(?:s|seg|segment)?[_.]?(?:[a-g]|dp|dot|p)", name.rpartition(".")[2].lower()))


def _ordered(lines: Sequence[SeenLine]) -> list[SeenLine]:
    """Ordered by the numbers in their names; unchanged where there are none."""
    numbers = [re.sub(r"\D", "", line.name.rpartition(".")[2]) for line in lines]
    if all(numbers) and len(set(numbers)) == len(numbers):
        return [line for _, line in sorted(zip(map(int, numbers), lines, strict=True), key=lambda each: each[0])]
    return list(lines)


def _as_segments(lines: Sequence[SeenLine]) -> list[SeenLine]:
    """Segments from a to g with the point last, by their names where possible; else unchanged."""

    def letter(line: SeenLine) -> str:
        bare = re.sub(r"^(?:segment|seg|s)[_.]?", "", line.name.rpartition(".")[2].lower())
        return "z" if bare in ("dp", "dot", "p", "h") else bare

    letters = [letter(line) for line in lines]
    if all(re.fullmatch(r"[a-gz]", each) for each in letters) and len(set(letters)) == len(letters):
        return [line for _, line in sorted(zip(letters, lines, strict=True), key=lambda each: each[0])]
    return _ordered(lines)


# A strobe with data beside it


def look_at_parallel(lines: Mapping[str, SeenLine]) -> Iterator[Talk]:
    """A parallel bus: a line that falls while four or eight others are constant, and one that says what they are."""
    for enable in lines.values():
        if len(enable) < FEW or enable.duty > 0.45 or enable.rests_at != LOW:
            continue
        others = [line for line in lines.values() if line.name != enable.name and len(line)]
        end = float(enable.head.end_s)
        still = [line for line in others if _stands_at(line, enable, end) and _goes_with(line, enable, end)]
        if len(still) not in (4, 5, 6, 8, 9, 10):
            continue
        count = 8 if len(still) >= 8 else 4
        # The one that changes least says what the others are; a line that never changes says nothing.
        by_name = [line for line in still if is_called(line.name, "command")]
        command = by_name[0] if by_name else None
        data = [line for line in still if line is not command]
        if command is None and len(data) > count:
            command = min(data, key=lambda line: len(line.until(end)))
            data.remove(command)
        numbered = [line for line in data if re.search(r"\d$", line.name)]
        data = _ordered(numbered if len(numbered) == count else data[:count])
        if len(data) != count:
            continue
        named = is_called(enable.name, "enable")
        roles = [("clock", enable.name), ("data", " ".join(line.name for line in data))]
        roles += [("command", command.name)] if command is not None else []
        why = f"{count} lines stand still at each of {counted(len(enable.falls), 'fall')} of {enable.name}"
        weight = float(len(enable) + sum(map(len, data)))
        yield Talk(PARALLEL, tuple(roles), 0.9 if named else 0.72, why, (), weight)


def _goes_with(line: SeenLine, enable: SeenLine, end: float) -> bool:
    """True where it changes just before strobes, as their data do, and not between them."""
    edges = line.until(end)
    if len(enable.rises) < 2 or not len(edges):
        return False
    place = np.searchsorted(enable.rises, edges.t)
    within = place < len(enable.rises)
    until = enable.rises[np.minimum(place, len(enable.rises) - 1)] - edges.t
    usual = float(np.median(np.diff(enable.rises)))
    return bool(np.mean(within & (until < SOON * usual)) > 0.7)


def _stands_at(line: SeenLine, enable: SeenLine, end: float) -> bool:
    """True where it never changes while the strobe is high, nor at its fall."""
    edges = line.until(end)
    if not len(edges):
        return False
    at = enable.edges.level_at(np.nextafter(edges.t, np.inf))
    return bool(np.mean(at == HIGH) < 0.02)
