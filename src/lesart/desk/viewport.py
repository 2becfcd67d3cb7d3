"""The viewport: cursor, view and replay over the extent of a capture. State in, state out."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.desk.state import State

ZOOM = 2.0
SHORTEST_VIEW_SAMPLES = 16
LONGEST_LIVE_S = 60.0
"""Longest span in view of a line that has only begun, in seconds."""


@dataclass(frozen=True)
class Extent:
    """Start, end and usual interval of a capture, in seconds; zeros where there is none."""

    start_s: float = 0.0
    end_s: float = 0.0
    interval_s: float = 0.0


def view_of(state: State, extent: Extent) -> tuple[float, float]:
    """Start and end of what is in view."""
    return state.view or (extent.start_s, extent.end_s)


def put_cursor(state: State, extent: Extent, at_s: float) -> State:
    """Put the cursor anywhere in the capture; the view follows."""
    at_s = min(max(at_s, extent.start_s), extent.end_s)
    view = state.view
    if view is not None and not view[0] <= at_s <= view[1]:
        width = view[1] - view[0]
        low = min(max(at_s - width / 2, extent.start_s), max(extent.end_s - width, extent.start_s))
        view = (low, low + width)
    return replace(state, cursor_s=at_s, view=view)


def zoom(state: State, extent: Extent, steps: float, around_s: float | None = None) -> State:
    """Zoom in for positive steps, out for negative, around the cursor or a place."""
    start, end = view_of(state, extent)
    around = min(max(state.cursor_s if around_s is None else around_s, start), end)
    shortest = max(extent.interval_s * SHORTEST_VIEW_SAMPLES, 1e-9)
    width = max((end - start) * ZOOM**-steps, shortest)
    if width >= (extent.end_s - extent.start_s) * (1 - 1e-9):
        return replace(state, view=None)
    share = (around - start) / (end - start) if end > start else 0.5
    return _look_at(state, extent, around - share * width, width)


def zoom_live(state: State, extent: Extent, steps: float) -> State:
    """Zoom a live line: change how many of its last seconds are in view."""
    shortest = max(extent.interval_s * SHORTEST_VIEW_SAMPLES, 0.1)
    width = min(max(state.live_width_s * ZOOM**-steps, shortest), max(extent.end_s, LONGEST_LIVE_S))
    return replace(state, live_width_s=width)


def pan(state: State, extent: Extent, by_s: float) -> State:
    """Pan the view; the full view cannot be panned."""
    if state.view is None:
        return state
    start, end = state.view
    return _look_at(state, extent, start + by_s, end - start)


def _look_at(state: State, extent: Extent, start_s: float, width_s: float) -> State:
    start_s = min(max(start_s, extent.start_s), extent.end_s - width_s)
    return replace(state, view=(start_s, start_s + width_s))


def toggle_play(state: State, extent: Extent) -> State:
    """Play from the cursor, or pause; from the start again at the end."""
    again = not state.replay.playing and state.cursor_s >= extent.end_s
    return replace(state, replay=state.replay.toggled(), cursor_s=extent.start_s if again else state.cursor_s)


def tick(state: State, extent: Extent, elapsed_s: float) -> State:
    """Advance by the time that has passed."""
    replay, cursor = state.replay.advanced(state.cursor_s, elapsed_s, extent.end_s)
    state = replace(state, replay=replay)
    return put_cursor(state, extent, cursor) if cursor != state.cursor_s else state
