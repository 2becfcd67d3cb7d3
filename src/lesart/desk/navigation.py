"""Navigation: channel, panel, cursor and view, by keys and by time; nothing here changes the project."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.errors import LesartError
from lesart.core.glass.bus.patterns import COUNTED
from lesart.core.notes import Key
from lesart.core.quantity import listed
from lesart.core.step import Step
from lesart.desk import viewport
from lesart.desk.hand import swept
from lesart.desk.state import LEAVES, GlassLook, State
from lesart.desk.viewport import Extent
from lesart.study.bench import Bench
from lesart.study.lines import LiveView

NEAREST, FURTHEST = 8, 8
"""Zoom limits for the lanes of Pace, as powers of two of a period."""
MANY_DIGITS = 100
"""Steps of the last digit per screen, for a value in hand."""


class Navigation:
    """The present state and its inputs; every deed replaces the state."""

    def __init__(self, state: State, bench: Bench) -> None:
        self.state = state
        self.bench = bench

    @property
    def live(self) -> LiveView | None:
        """The line of the chosen channel, while it is listened to."""
        view = self.bench.views.get(self.state.chosen.source)
        return view if view is not None and view.listening else None

    @property
    def shown(self) -> State:
        """The state, with the cursor at now and the last seconds in view where a line is followed."""
        live = self.live
        if live is None or not self.state.following:
            return self.state
        now, width = live.state.now_s, self.state.live_width_s
        return replace(self.state, cursor_s=now, view=(max(now - width, 0.0), max(now, width)))

    def follow(self) -> None:
        """Follow what lines say as it comes."""
        self.state = replace(self.state, following=True)

    def _hold(self) -> None:
        """Hold the present view instead of following."""
        if self.live is not None and self.state.following:
            self.state = replace(self.shown, following=False)

    def extent(self) -> Extent:
        """Extent of the chosen channel's capture."""
        try:
            raw = self.bench.raw(self.state.project, self.state.chosen)
        except LesartError:
            return Extent()
        if self.live is not None:
            return Extent(0.0, self.live.state.now_s, self.bench.timing(raw).interval_s)
        return Extent(float(raw.t[0]), float(raw.t[-1]), self.bench.timing(raw).interval_s) if len(raw) else Extent()

    def open_step(self, step: Step | None) -> None:
        """Open a step of the thread, or all channels at once."""
        self.state = replace(self.state, step=step)

    def move_channel(self, by: int) -> None:
        """Choose the next channel of the margin, or an earlier one."""
        names = list(self.state.project.channels)
        index = (names.index(self.state.channel) + by) % len(names)
        self.choose_channel(names[index])

    def choose_channel(self, name: str) -> None:
        """Choose the channel to follow. A value in hand is dropped."""
        self.state = self.state.following_channel(name)

    def next_panel(self) -> None:
        """Bring the next panel forward."""
        names = list(self.state.project.panels)
        if not names:
            self.state = self.state.says("The project has no panel; add one under [panels].")
            return
        at = names.index(self.state.panel) if self.state.panel in names else -1
        self.state = replace(self.state, panel=names[(at + 1) % len(names)])

    def choose_panel(self, name: str) -> None:
        """Bring a panel forward."""
        self.state = self.state.with_panel_in_front(name)

    def choose_face(self, name: str) -> None:
        """Choose the face of the panel in front to work on."""
        if name in self.state.project.faces:
            self.state = replace(self.state, glass=replace(self.state.glass, face=name))

    # The cursor

    def move_cursor(self, samples: int) -> None:
        """Move the cursor by samples of the capture; 0 puts it on the sample just before it."""
        try:
            t = self.bench.raw(self.state.project, self.state.chosen).t
        except LesartError:
            return
        self._hold()
        if self.state.step == Step.PACE:
            from lesart.desk.entries.pace.traces import moved_in_pace

            self.state = moved_in_pace(self.state, self.bench, samples)
        elif self.state.step == Step.GLASS and self.state.leaf_of(Step.GLASS) == "test":
            look = self.state.glass
            self.state = replace(self.state, glass=replace(look, pattern_step=max(look.pattern_step + samples, 0)))
        elif self.state.step == Step.GLASS and self.state.leaf_of(Step.GLASS) == "glyphs":
            look = self.state.glass
            self.state = replace(self.state, glass=replace(look, font_page=max(look.font_page + samples, 0)))
        elif self.state.hand is not None:
            self.state = swept(self.state, samples)
        elif len(t):
            index = int(t.searchsorted(self.state.cursor_s, side="right")) - 1 + samples
            self.put_cursor(float(t[min(max(index, 0), len(t) - 1)]))

    def move_screen(self, direction: int) -> None:
        """Move the cursor by a screen, or by a tenth of the capture while all of it is in view."""
        self._hold()
        if self.state.hand is not None:
            self.state = swept(self.state, direction * MANY_DIGITS)
            return
        if self.state.step == Step.PACE:
            from lesart.desk.entries.pace.traces import moved_in_pace

            self.state = moved_in_pace(self.state, self.bench, direction, by_screens=True)
            return
        start, end = self.view()
        step = (end - start) / (10 if self.state.view is None else 1)
        self.put_cursor(self.state.cursor_s + direction * step)

    def put_cursor(self, at_s: float) -> None:
        """Put the cursor anywhere in the capture."""
        self._hold()
        self.state = viewport.put_cursor(self.state, self.extent(), at_s)

    def view(self) -> tuple[float, float]:
        """Start and end of what is in view."""
        return viewport.view_of(self.shown, self.extent())

    def zoom(self, steps: float, around_s: float | None = None) -> None:
        """Zoom in for positive steps, out for negative, around the cursor or a place; for a followed line, up to
        now."""
        if self.state.step == Step.PACE:
            zoom = min(max(self.state.pace.zoom - round(steps), -NEAREST), FURTHEST)
            self.state = replace(self.state, pace=replace(self.state.pace, zoom=zoom))
            return
        if self.live is not None and self.state.following:
            self.state = viewport.zoom_live(self.state, self.extent(), steps)
            return
        self.state = viewport.zoom(self.state, self.extent(), steps, around_s)

    def pan(self, by_s: float) -> None:
        """Move what is in view."""
        self._hold()
        self.state = viewport.pan(self.state, self.extent(), by_s)

    def toggle_play(self) -> None:
        """Play from the cursor, or pause; for a line, follow it or hold."""
        if self.live is not None:
            if self.state.following:
                self._hold()
            else:
                self.state = replace(self.state, following=True, view=None)
            return
        self.state = viewport.toggle_play(self.state, self.extent())

    def change_speed(self, by: int) -> None:
        """Play slower or faster."""
        self.state = replace(self.state, replay=self.state.replay.faster(by))

    def tick(self, elapsed_s: float) -> None:
        """Advance by the time that has passed."""
        if self.live is not None:
            return
        if self.state.step is Step.GLASS and self.state.leaf_of(Step.GLASS) == "test" and self.state.replay.playing:
            self.state = replace(self.state, glass=_played(self.state.glass, elapsed_s * self.state.replay.speed))
            return
        self.state = viewport.tick(self.state, self.extent(), elapsed_s)

    def turn_leaf(self, by: int) -> None:
        """Open the next leaf of a step that has several."""
        step, leaves = self.state.step, LEAVES.get(self.state.step, ())
        if not leaves:
            several = [f"{other.number} {other.shown}" for other in Step if other in LEAVES]
            said = f"This step has one leaf only; {listed(several)} have several."
            self.state = self.state.says(said)
            return
        at = leaves.index(self.state.leaf_of(step))
        self.state = self.state.turned_to(step, leaves[(at + by) % len(leaves)]).says("")

    def choose_leaf(self, name: str) -> None:
        """Open a leaf of the open step."""
        if name in LEAVES.get(self.state.step, ()):
            self.state = self.state.turned_to(self.state.step, name)

    def select(self, key: Key | None) -> None:
        """Select a value in place."""
        self.state = self.state.select(key)

    def say(self, message: str, *, fault: bool = False) -> None:
        """Show a sentence."""
        self.state = self.state.says(message, fault=fault)

    def ask(self, path: str) -> None:
        """Ask whether an export may replace this file."""
        self.state = replace(self.state.says(f"{path} already exists."), asks=path)


PATTERN_STEP_S = 0.5
"""Default seconds per step of a test pattern."""


def _played(look: GlassLook, seconds: float) -> GlassLook:
    """A test pattern advanced by a time."""
    every_s = look.counting.every_s if look.counting is not None and look.pattern == COUNTED else PATTERN_STEP_S
    gone_s = look.pattern_s + seconds
    steps = int(gone_s / every_s + 1e-9)
    return replace(look, pattern_s=gone_s - steps * every_s, pattern_step=look.pattern_step + steps)
