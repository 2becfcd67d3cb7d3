"""How fresh the glass is: from the start of a reading until it is shown, and until the next one is."""

from __future__ import annotations

import numpy as np

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import DOUBT, Note
from lesart.core.pace.limits import Limits
from lesart.core.pace.play import Played
from lesart.core.pace.task import NS
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import plain_number, told_apart
from lesart.core.step import Step


@dataclass(frozen=True)
class Reach:
    """The path of a channel to a panel: the tasks that read, convert and draw it.

    ``lag_s`` is that of its windows and filters, ``waits_s`` the extra time between readings where they thin them out;
    ``alarm_s`` how long its slowest alarm waits, None without one; ``stale_after_s`` the age at which the panel marks
    it stale.
    """

    channel: str
    panel: str
    read: str
    convert: str
    draw: str
    lag_s: float
    stale_after_s: float
    alarm_s: float | None = None
    waits_s: float = 0.0
    most_lag_s: float = 0.0
    """Lag that its channel allows; the loop's own limit applies where that is more."""


def freshness(played: Played, reach: Reach, limits: Limits) -> list[Verdict]:
    """Verdicts from the sensor to the glass, filters included: how long until a new reading is shown, and how old a
    shown one can become. Drawing more often shortens the first; only reading more often shortens the second."""
    found = shown_times(played, reach)
    if found is None:
        return []
    after, oldest = found.after_ns / NS + reach.lag_s, found.oldest_ns / NS + reach.lag_s + reach.waits_s
    verdicts = [
        _after(reach, after, max(limits.most_lag_s, reach.most_lag_s)),
        Verdict(f"{reach.channel} on {reach.panel}, at most old", 1000 * oldest, "ms", of=reach.channel),
    ]
    age = oldest - reach.lag_s
    if age > reach.stale_after_s:
        shown, limit = told_apart(age, reach.stale_after_s)
        note = Note(
            DOUBT,
            Step.PACE,
            reach.channel,
            f"{reach.channel} on {reach.panel}: between two readings it grows "
            f"{shown} s old and is shown as stale from {limit} s on.",
            figure=age,
            unit="s",
            limit=reach.stale_after_s,
            remedy="read it more often, or let it grow older",
            panel=reach.panel,
            limit_at=("channels", reach.channel, "fit", "stale_after"),
        )
        verdicts.append(
            Verdict(
                name=f"{reach.channel}, oldest shown",
                figure=age,
                unit="s",
                limit=reach.stale_after_s,
                at_least=False,
                note=note,
                of=reach.channel,
            )
        )
    if reach.alarm_s is not None:
        # Its cause may come just after a reading.
        verdicts.append(
            Verdict(f"alarm of {reach.channel} shows in", 1000 * (oldest + reach.alarm_s), "ms", of=reach.channel)
        )
    return verdicts


def _after(reach: Reach, after: float, most_s: float) -> Verdict:
    """Verdict on how long until a new reading is on the glass, against the wanted time."""
    name = f"{reach.channel} to {reach.panel}"
    if not after > most_s:
        return Verdict(name, 1000 * after, "ms", 1000 * most_s, of=reach.channel)
    by_filters = reach.lag_s > after / 2
    most = "by its filters" if by_filters else "until it is drawn"
    room = most_s - after + reach.lag_s
    calmer = f"filters that lag by {plain_number(room, 2)} s at most" if room > 0 else "filters that lag less"
    shown, limit = told_apart(after, most_s)
    note = Note(
        DOUBT,
        Step.PACE,
        reach.channel,
        f"{reach.channel} on {reach.panel}: a new reading is on the glass after "
        f"up to {shown} s, most of it {most}; {limit} s is needed.",
        figure=after,
        unit="s",
        limit=most_s,
        remedy=calmer if by_filters else "draw it more often",
        panel=reach.panel,
        limit_at=("channels", reach.channel, "most_lag") if most_s == reach.most_lag_s else ("loop", "most_lag"),
    )
    return Verdict(
        name=name, figure=1000 * after, unit="ms", limit=1000 * most_s, at_least=False, note=note, of=reach.channel
    )


@dataclass(frozen=True)
class ShownTimes:
    """``after_ns``: from the start of a reading to the end of the first drawing that shows it, or a later one.

    ``oldest_ns``: from its start until the next drawing replaces it. Each is the worst of all that were played.
    """

    after_ns: int
    oldest_ns: int


def shown_times(played: Played, reach: Reach) -> ShownTimes | None:
    """The worst times of a channel; None where it is not drawn at least twice while the loop is played."""
    read, convert, draw = (played.times(name) for name in (reach.read, reach.convert, reach.draw))
    # For each drawing but the last: the last conversion finished before it, and the reading that it took.
    made = np.searchsorted(convert.ends_ns, draw.starts_ns[:-1], side="right") - 1
    drawn = np.flatnonzero(made >= 0)
    taken = np.searchsorted(read.ends_ns, convert.starts_ns[made[drawn]], side="right") - 1
    drawn, taken = drawn[taken >= 0], taken[taken >= 0]
    if not len(drawn):
        return None
    oldest = (draw.ends_ns[drawn + 1] - read.starts_ns[taken]).max()
    # Readings before ``seen`` were on the glass already; the first new one has waited the longest for this drawing.
    shown = np.maximum.accumulate(taken + 1)
    seen = np.concatenate([[0], shown[:-1]])
    new = shown > seen
    return ShownTimes(int((draw.ends_ns[drawn[new]] - read.starts_ns[seen[new]]).max()), int(oldest))
