"""The guided walk: twelve stops through the linden yard on the real screens. Each waits for its key."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step
from lesart.study.views import Picture

Done = Callable[[Picture, Picture], bool]
"""Whether a stop is done, by the picture at its beginning and the present one."""


@dataclass(frozen=True)
class Stop:
    """``look``: one thing to look at; ``press``: one key, and what it does; ``notice``: its result."""

    look: str
    press: str
    notice: str
    is_done: Done


def _opens(step: Step) -> Done:
    return lambda was, now: now.workspace.step is step


def _leaf(picture: Picture) -> str:
    return next((leaf.name for leaf in picture.workspace.leaves if leaf.open), "")


def _front(picture: Picture) -> str:
    return picture.glass[0].name if picture.glass else ""


def _chosen(picture: Picture) -> int:
    return next((row.index for row in picture.notes if row.chosen), -1)


STOPS = (
    Stop(
        "The strip on top is the thread: one reading, the mass of hive 2, at its nine steps from the wire to the "
        "glass, all at the red cursor.",
        "> moves the cursor forward by a screen",
        "All nine values moved with it, and so did the glass on the right.",
        lambda was, now: now.cursor != was.cursor,
    ),
    Stop(
        "2 Raw shows what the sensor really says: counts.",
        "3 opens Law",
        "Counts become millivolts per volt, then kilograms. Each law has its formula and its values under it.",
        _opens(Step.LAW),
    ),
    Stop(
        "Under the heading are the leaves of this step: laws, how sure, what fits.",
        "l turns to how sure",
        "Each bar is something that is not known exactly, and how far off it may put the reading.",
        lambda was, now: now.workspace.step is Step.LAW and _leaf(now) == "how sure",
    ),
    Stop(
        "What would the panels show at 43 kg? Nobody has to lift that.",
        "h takes a value in hand: type 43 kg, then enter",
        "The hand drives the reading instead of the capture; every step and every panel follows.",
        lambda was, now: bool(now.hand),
    ),
    Stop(
        "The title says in red that a hand drives the reading.",
        "h lets go",
        "The capture is back.",
        lambda was, now: not now.hand,
    ),
    Stop(
        "The scale was compared with four known weights.",
        "4 opens True",
        "Rings are before the correction, dots after it. Beyond the last weight it is a guess, and a note says so.",
        _opens(Step.TRUE),
    ),
    Stop(
        "The number still jitters.",
        "5 opens Calm",
        "The signal before and after its filters, with what they cost: how late it is, how much memory it takes.",
        _opens(Step.CALM),
    ),
    Stop(
        "Steady now. Does it fit its place?",
        "6 opens Fit",
        "The cells of the field with the code of each, and what it shows at every ugly value: too large, too small, "
        "no value, too old.",
        _opens(Step.FIT),
    ),
    Stop(
        "The field is one item among others on a panel.",
        "7 opens Glass",
        "The panel as it will look. Shift and an arrow move the selected item; + adds one.",
        _opens(Step.GLASS),
    ),
    Stop(
        "The yard has five panels.",
        "g brings the next one forward",
        "One reading, dressed for each panel: seven segments, characters, pixels.",
        lambda was, now: _front(now) != _front(was),
    ),
    Stop(
        "At the foot are the notes: what will be wrong, what is doubtful, and, folded up, what is worth knowing.",
        "n goes to the next one, at its place",
        "A note has its figure, its limit and a remedy. Its number also stands beside the value it is about.",
        lambda was, now: _chosen(now) not in (-1, _chosen(was)),
    ),
    Stop(
        "This one ends in a remedy that a key applies.",
        "m mends it",
        "Mended, as one edit: ctrl+z undoes it.",
        lambda was, now: now.message.startswith("mended"),
    ),
)
END = (
    "That was the walk. Your own project begins with lesart new FILE.csv; in 2 Raw, + takes a line that says what it "
    "is. ? lists all keys. Escape closes this."
)
