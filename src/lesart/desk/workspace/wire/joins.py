"""The leaf of connections: the pins of each part at the left, what they are joined to at the right, a wire between.

One row per connection, so that it can be followed with a finger; a fault is shown on its row.
"""

from __future__ import annotations

from dataclasses import replace

from lesart.core.notes import FAULT
from lesart.core.step import Step
from lesart.core.wire.entry import JOINS, written
from lesart.core.wire.hookup import End, Hookup, Join, is_pull
from lesart.core.wire.part import Part
from lesart.core.wire.proposal.places import free_pins
from lesart.desk.workspace.context import Context, label, text, value, wrapped
from lesart.study.views import Line, Span, Tone, numeral

PIN, WIRE, FAR = 10, 31, 17
"""Columns of the own pin, of the wire and of the far pin."""
SHORTEST = 3
"""Cells of bare wire on each side of the part it runs through."""
TONES: dict[str, Tone] = {
    "red": "rubric",
    "orange": "ochre",
    "yellow": "ochre",
    "brown": "ochre",
    "green": "verdigris",
    "blue": "lapis",
    "violet": "lapis",
    "white": "text",
}
"""Tones of wire colours. Colours without one are drawn faint; the name of the colour is next to each."""


def joins_lines(context: Context) -> list[Line]:
    """The chosen channel's part first, boards last, with their free pins."""
    hookup = context.project.hookup
    lines: list[Line] = [_read_from(context)]
    shown: set[int] = set()
    for part in ordered(context):
        rows = _rows(context, part, shown)
        if rows:
            lines += [_head(context, part), *rows]
    for part in hookup.parts.values():
        free = free_pins(hookup, part.name) if part.kind.group == "board" else ()
        if free:
            lines += wrapped(f"free on {part.name}: {', '.join(free)}", "faint")
    if not hookup.joins:
        lines += [(), (text("Nothing is joined yet. "), text("j", "ochre"), text(" joins all by role."))]
    return lines


def ordered(context: Context) -> list[Part]:
    """Parts with pins, in display order."""
    parts = [part for part in context.project.hookup.parts.values() if part.kind.pins]
    return sorted(parts, key=lambda part: (part.name != context.channel.part, part.kind.group == "board"))


def _read_from(context: Context) -> Line:
    """The channel's part, where the thread begins."""
    name = context.channel.name
    return (label(f" {name} is read from "), value(context.project, ("channels", name, "part")))


def _head(context: Context, part: Part) -> Line:
    here = part.name == context.channel.part
    address: Line = ()
    if part.address is not None:
        address = (label("  at "), value(context.project, ("parts", part.name, "address")))
    return (
        text("▌" if here else " ", "rubric"),
        text(part.name, bold=True),
        label(f"  {part.kind.name}"),
        *address,
        text(f"  {marks(context, part.name)}", "rubric"),
    )


def marks(context: Context, part: str, pin: str | None = None) -> str:
    """Marks and numerals of the notes at a pin; without a pin, of those on the part as a whole."""
    found = [
        (number, note)
        for number, note in enumerate(context.notes, 1)
        if note.step == Step.WIRE
        and note.place is None
        and (f"{part}.{pin}" in note.pins if pin else note.part == part and not note.pins)
    ]
    return " ".join(f"{note.mark}{numeral(number)}" for number, note in found)


def _rows(context: Context, part: Part, shown: set[int]) -> list[Line]:
    """Rows of a part. A board shows only joins to itself: all others are shown with the other part."""
    hookup, rows = context.project.hookup, []
    left_open = []
    for pin in part.kind.pins:
        own = End(part.name, pin.name)
        joins = [
            join
            for join in hookup.joins_at(own)
            if part.kind.group != "board" or (join.index not in shown and _only_boards(hookup, join))
        ]
        for join in joins:
            rows.append(_row(context, own, join, again=join.index in shown))
            shown.add(join.index)
            rows += _pulls(context, join.other(own), shown)
        if not joins and part.kind.group != "board":
            if pin.optional:
                left_open.append(pin.name)
            else:
                open_here = marks(context, part.name, pin.name)
                rows.append((text(f"   {pin.name:<{PIN}}"), text("╶ open", "rubric"), text(f"  {open_here}", "rubric")))
    if left_open:
        rows.append((label(f"   left open: {', '.join(left_open)}"),))
    return rows


def _pulls(context: Context, far: End, shown: set[int]) -> list[Line]:
    """Resistors from the far pin to a rail, such as a pull-up or the other half of a divider."""
    hookup, rows = context.project.hookup, []
    for join in () if _is_rail(hookup, far) else hookup.joins_at(far):
        if join.index not in shown and is_pull(hookup, join):
            rows.append(_row(context, far, join, again=False, name=f"└ {far.pin}"))
            shown.add(join.index)
    return rows


def _only_boards(hookup: Hookup, join: Join) -> bool:
    return all(hookup.parts[end.part].kind.group == "board" for end in join.ends)


def _row(context: Context, own: End, join: Join, *, again: bool, name: str = "") -> Line:
    """A row of pin, wire, far pin, colour, notes. ``again``: it is repeated from the other part, where it is edited."""
    far = join.other(own)
    side = "to" if far == join.to else "pin"
    found = marks(context, own.part, own.pin)
    if not found and not _is_rail(context.project.hookup, far):
        found = marks(context, far.part, far.pin)
    at: Span = text(str(far)) if again else value(context.project, (*JOINS, join.index, side))
    colour = text(join.colour, "faint") if again else value(context.project, (*JOINS, join.index, "colour"))
    if not join.colour:
        colour = replace(colour, text="no colour", tone="faint", bold=False)
    return (
        text(f"   {name or own.pin:<{PIN}}"),
        *_wire(context, join, broken=FAULT in found, again=again),
        text(" "),
        at,
        text(" " * max(FAR - len(at.text), 1)),
        replace(colour, tone="faint"),
        text(f" {found}" if found else "", "rubric"),
    )


def _is_rail(hookup: Hookup, end: End) -> bool:
    return bool({"supply out", "ground"} & set(hookup.pin(end).roles))


def _wire(context: Context, join: Join, *, broken: bool, again: bool) -> Line:
    """The wire with the part it runs through in its middle; editable in place either way."""
    tone: Tone = "rubric" if broken else TONES.get(join.colour, "faint")
    stroke = "╌" if broken else "─"
    key = (*JOINS, join.index, "through")
    if not join.through:
        side, middle = (WIRE - 4) // 2, f"╌{FAULT}╌╌" if broken else stroke * 4
        inner = (
            text(middle, tone) if again else replace(value(context.project, key), text=middle, tone=tone, bold=False)
        )
        return text(stroke * side, tone), inner, text(stroke * (WIRE - 4 - side), tone)
    part = context.project.hookup.parts[join.through]
    room = WIRE - 2 * SHORTEST - 4
    more = f" {_short(part)}".rstrip()
    name = join.through if len(join.through) <= room else join.through[: room - 1] + "…"
    if len(name) + len(more) > room:
        more = ""
    inner = text(name) if again else replace(value(context.project, key), text=name)
    left = (WIRE - 4 - len(name) - len(more)) // 2
    right = WIRE - 4 - len(name) - len(more) - left
    return (text(stroke * left, tone), label("┤ "), inner, label(f"{more} ├"), text(stroke * right, tone))


def _short(part: Part) -> str:
    """The main value of a part in between."""
    if "resistance" in part.values:
        return written(part.value("resistance"), "Ω").replace(" ", "")
    if part.kind.name == "divider":
        return f"{written(part.value('upper'), '')}:{written(part.value('lower'), '')}".replace(" ", "")
    return ""
