"""The state of the desk: everything in view, as one frozen value."""

from __future__ import annotations

from dataclasses import field, replace

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import sentence
from lesart.core.glass.bus.counting import Counting
from lesart.core.glass.faces.items import FieldItem
from lesart.core.glass.panels.panel import Memory
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.desk.history import History
from lesart.live.replay import Replay
from lesart.project.model import Channel, Project
from lesart.study.views import Offers
from lesart.study.why.truth import Truth

LEAVES: dict[Step | None, tuple[str, ...]] = {
    Step.WIRE: ("joins", "parts", "sums", "supply", "why", "bring-up"),
    Step.LAW: ("laws", "how sure", "what fits"),
    Step.TRUE: ("references", "fits", "calibrations", "why"),
    Step.CALM: ("filters", "variants", "step", "frequencies", "alarms", "what there is"),
    Step.FIT: ("field", "rules", "digits", "sweep"),
    Step.PACE: ("loop", "tasks", "digits", "what if", "trace", "why"),
    Step.PACK: ("this channel", "firmware"),
    Step.GLASS: ("items", "panel", "glyphs", "pictures", "wiring", "test", "why", "panels there are"),
}
"""Leaves of the steps that have several."""

SEEN_AT = {
    "references": (Step.TRUE, LEAVES[Step.TRUE][0]),
    "items": (Step.GLASS, "items"),
    "glyphs": (Step.GLASS, "glyphs"),
    "law": (Step.LAW, LEAVES[Step.LAW][0]),
    "calm": (Step.CALM, LEAVES[Step.CALM][0]),
    "alarms": (Step.CALM, "alarms"),
}
"""Step and leaf of each section of a channel."""


@dataclass(frozen=True)
class GlassLook:
    """What is looked at in Glass: the ``face`` worked on, a ``dot`` of a glyph, a test ``pattern`` at its step.

    ``pattern_s`` is how long it was played; ``counting`` the range that was asked for, of the pattern that counts.
    ``font`` and ``font_page`` are those of the specimen. ``lines_found`` are the segments that lines lit so far.
    ``close_up``: dot by dot around the item worked on.
    ``as_before``: while that edit is the last one of the history, the panel is looked at as it was before it.
    """

    face: str = ""
    pattern: str = ""
    pattern_step: int = 0
    pattern_s: float = 0.0
    counting: Counting | None = None
    font: str = ""
    font_page: int = 0
    lines_found: tuple[str, ...] = ()
    dot: int = 0
    close_up: bool = False
    from_behind: bool = False
    as_before: int | None = None


@dataclass(frozen=True)
class PaceLook:
    """What is looked at in Pace: 2 to the ``zoom`` periods from ``first_quarter`` quarters of that on, a ``sweep``.

    ``kept`` are figures of verdicts by name, to compare with. Of a trace the ``transmission`` so many before the last
    one is looked at, or what its drawing should have left: ``wanted``.
    """

    zoom: int = 0
    first_quarter: int = 0
    sweep: int = 0
    kept: tuple[tuple[str, float], ...] = ()
    transmission: int = 0
    wanted: bool = False


@dataclass(frozen=True)
class WhyLook:
    """What a channel, in one of its variants, should read: ``truths`` that a person has said; and what he has seen on
    a ``panel``."""

    channel: str = ""
    variant: str = ""
    truths: tuple[Truth, ...] = ()
    panel: str = ""
    picks: tuple[int, ...] = ()
    """Answers to the questions about a panel: which look was seen, 0 for none of those shown."""
    faces: tuple[tuple[str, Memory], ...] = ()
    """What its face showed when the questions began: earlier answers refer to that, wherever the cursor is now."""
    part: str = ""
    """The silent part."""
    symptom: str = ""
    """The symptom of the loop."""

    def is_of(self, channel: Channel) -> bool:
        """True where it is about this one."""
        return (channel.name, channel.variant) == (self.channel, self.variant)


@dataclass(frozen=True)
class State:
    """``project`` is the checked form of ``history.text``; ``saved`` is what the file holds.

    ``view`` is the part of the capture in the chart, in seconds; None is all of it. ``hand`` is a raw value in the
    channel's raw unit. ``selected`` names the value that enter would edit, by step, so that each step keeps its own;
    ``leaves`` the leaf that is turned up in a step that has several. ``following``: a channel whose line is listened
    to is looked at as it is now, over the last ``live_width_s`` seconds. ``asks``: the file that an export would
    replace, while nobody has said whether it may.
    """

    project: Project
    history: History
    saved: str
    channel: str
    panel: str = ""
    step: Step | None = Step.RAW
    cursor_s: float = 0.0
    view: tuple[float, float] | None = None
    replay: Replay = field(default_factory=Replay)
    hand: float | None = None
    variant: str = ""
    field_place: int = 0
    """Which of the channel's fields on the panel in front Fit shows, modulo their number."""
    note: int | None = None
    remarks_unfolded: bool = False
    notes_here: bool = False
    """Show only notes of the open step."""
    selected: tuple[tuple[Step | None, Key], ...] = ()
    leaves: tuple[tuple[Step | None, str], ...] = ()
    following: bool = True
    live_width_s: float = 30.0
    glass: GlassLook = GlassLook()
    pace: PaceLook = PaceLook()
    why: WhyLook = WhyLook()
    message: str = ""
    message_is_fault: bool = False
    faults: int = 0
    """Number of refusals so far: a refused line stays open for editing."""
    asks: str = ""
    offers: Offers = field(default_factory=dict)
    """What could be added when ``+`` was last pressed."""

    @property
    def unsaved(self) -> bool:
        """True where the file differs from the text."""
        return self.history.text != self.saved

    @property
    def chosen(self) -> Channel:
        """The chosen channel, as its variant looked at has it."""
        channel = self.project.channels[self.channel]
        return next((each for each in channel.variants if each.variant == self.variant), channel)

    @property
    def field_in_front(self) -> tuple[str, str, FieldItem] | None:
        """Panel, face and item of the field that Fit looks at: on the panel in front if it shows the channel."""
        names = self.project.panels_showing(self.channel)
        if not names:
            return None
        name = self.panel if self.panel in names else names[0]
        fields = self.seen.fields_on(name, self.channel)
        face, item = fields[self.field_place % len(fields)]
        return name, face.name, item

    @property
    def seen(self) -> Project:
        """The project with the chosen channel's fields as the variant looked at has them."""
        return self.project.looking_at(self.chosen)

    def selected_at(self, step: Step | None) -> Key | None:
        """The value selected in a step."""
        return dict(self.selected).get(step)

    def leaf_of(self, step: Step | None) -> str:
        """The open leaf of a step; empty where it has only one."""
        leaves = LEAVES.get(step, ())
        return dict(self.leaves).get(step, leaves[0] if leaves else "")

    def turned_to(self, step: Step | None, leaf: str) -> State:
        """The state with another leaf of a step open.

        The selection of the old one is dropped: keys must only change what is visible.
        """
        others = tuple(entry for entry in self.leaves if entry[0] != step)
        selected = tuple(entry for entry in self.selected if entry[0] != step)
        return replace(self, leaves=(*others, (step, leaf)), selected=selected)

    def select(self, key: Key | None) -> State:
        """Select a value in the open step."""
        others = tuple(entry for entry in self.selected if entry[0] != self.step)
        return replace(self, selected=others if key is None else (*others, (self.step, key)))

    def following_channel(self, name: str) -> State:
        """The state with another channel. A value in hand is dropped."""
        if name not in self.project.channels:
            return self
        hand, variant = (self.hand, self.variant) if name == self.channel else (None, "")
        return replace(self, channel=name, hand=hand, variant=variant)

    def with_panel_in_front(self, name: str) -> State:
        """The state with a panel brought forward."""
        return replace(self, panel=name) if name in self.project.panels else self

    def seeing(self, key: Key) -> State:
        """The state with a newly added value selected, on its leaf."""
        at = next((SEEN_AT[part] for part in map(str, key[2:]) if part in SEEN_AT), None)
        return (self if at is None else self.turned_to(*at)).select(key)

    def says(self, message: str, *, fault: bool = False) -> State:
        """The state with a sentence for the person."""
        return replace(self, message=sentence(message), message_is_fault=fault, faults=self.faults + fault, asks="")
