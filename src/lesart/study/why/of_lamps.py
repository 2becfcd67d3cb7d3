"""What may be wrong where lamps in a chain show something else: the order of their bytes, or how the line runs."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import partial

from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.lamp_panel import BY_COLUMNS, BY_ROWS, CORNERS, SENT, LampPanel
from lesart.core.glass.panels.panel import Memory
from lesart.core.notes import Key, Written
from lesart.study.why.glass_suspect import GlassSuspect
from lesart.study.why.suspect import OFTEN, RARE, USUAL


def lamp_suspects(panel: LampPanel) -> Iterator[GlassSuspect]:
    """Suspects in the lamps' own bytes first, then in the way of the line, and in what reaches them."""
    for order in (each for each in SENT if each != panel.order):
        weight = OFTEN if order in SENT[:2] else RARE
        yield _built(panel, f"its lamps want {order}", weight, {"order": order}, {"sent": order})
    if panel.width > 1 and panel.height > 1:
        turned: Mapping[str, str | bool] = {"to_and_fro": not panel.to_and_fro}
        how = "from the same side each time" if panel.to_and_fro else "to and fro"
        yield _built(panel, f"its line runs {how}", OFTEN, turned, turned)
        other = {"runs": BY_COLUMNS if panel.runs == BY_ROWS else BY_ROWS}
        yield _built(panel, f"its line runs {other['runs']}", USUAL, other, other)
    for corner in (each for each in CORNERS if each != panel.begins):
        yield _built(panel, f"its first lamp is at the {corner}", USUAL, {"begins": corner}, {"begins": corner})
    for says, moved, remedy in (
        ("one lamp more is on its line before the first", 1, "send a lamp more, a dark one, before all others"),
        ("its first lamp is missing or passes all on", -1, "look at the first lamp, or send without it"),
    ):
        yield GlassSuspect(says, USUAL, partial(_moved, panel, moved), (), remedy)
    yield GlassSuspect(
        "nothing reaches it",
        RARE,
        lambda memory: panel.lit(panel.blank()),
        (),
        "check that the line goes to the end marked for data in, its supply, and that both share their ground",
    )


def _moved(panel: LampPanel, lamps: int, memory: Memory) -> Frame:
    """Everything that many lamps nearer to the first."""
    data, size = panel.sent(panel.lit(memory)), abs(lamps) * panel.pixel_bytes
    return panel.shown(data[size:] + bytes(size) if lamps > 0 else bytes(size) + data[:-size])


def _built(
    panel: LampPanel, says: str, weight: float, really: Mapping[str, str | bool], written: Mapping[str, Written]
) -> GlassSuspect:
    """Lamps that are another way than the project says: what is sent as it stands, seen by them."""
    seen_by = replace(panel, **really)  # type: ignore[arg-type]
    key: Key = ("panels", panel.name)
    edits = tuple(((*key, name), value) for name, value in written.items())

    def look(memory: Memory) -> Frame:
        data = panel.sent(panel.lit(memory))
        size = seen_by.frame_size
        return seen_by.shown(data[:size].ljust(size, b"\0"))

    return GlassSuspect(says, weight, look, edits, "say so, and it is sent that way")
