"""The hook-up sheet: two columns of pins with wires between, their colours named, the list of parts, the sums."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING

from lesart.core.notes import Note
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted
from lesart.core.wire.entry import shown
from lesart.core.wire.hookup import End, Hookup, Join, used_roles
from lesart.core.wire.part import Part, shown_address
from lesart.core.wire.sums import Sum
from lesart.draw.hookup_layout import Head, Layout, Line, PinRow, layout, pulls_of
from lesart.draw.paper import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

WIDTH, MARGIN, ROW = 210.0, 12.0, 4.4
"""Millimetres of an upright A4 sheet, which grows downwards for a long list."""
LEFT, RIGHT = 42.0, 168.0
"""Positions of the two columns of pins."""
BOX_W = 30.0
TOP = 26.0
LIST_ROW = 4.2
WIRES = {
    "red": "#b3261e",
    "black": "#2a241b",
    "yellow": "#c29a00",
    "green": "#256b50",
    "blue": "#245a99",
    "orange": "#c8691c",
    "violet": "#6b4a9c",
    "white": "#b9ad97",
    "grey": "#857b6c",
    "brown": "#7a4a24",
}
"""Colours of wires on paper; the name is at every wire as well."""


def draw_hookup(title: str, hookup: Hookup, sums: Iterable[Sum], faults: Sequence[Note]) -> Figure:
    """A whole hook-up on one sheet. ``faults`` are marked at their pins and listed first, so that they are noticed."""
    placed = layout(hookup)
    lists = [("cannot work", [f"† {note.text}" for note in faults])] if faults else []
    lists += [("parts", [_part_line(hookup, part) for part in hookup.parts.values()])]
    lists += [("on the board itself", [_pull_line(join) for join in pulls_of(hookup)])]
    lists += [("sums", [_sum_line(each) for each in sums])]
    lists = [(name, lines) for name, lines in lists if lines]
    below = TOP + placed.rows * ROW + 8
    height = below + sum((len(lines) + 2.2) * LIST_ROW for _, lines in lists) + MARGIN
    figure = new_figure(WIDTH, height)
    axes = figure.add_axes((0, 0, 1, 1))
    axes.set_xlim(0, WIDTH)
    axes.set_ylim(height, 0)
    axes.axis("off")
    _words(axes, MARGIN, 12, title, size=12, bold=True)
    _words(
        axes,
        MARGIN,
        18,
        f"{counted(len(hookup.parts), 'part')}, {counted(len(hookup.joins), 'connection')}",
        colour=INK["faint"],
    )
    _columns(axes, hookup, placed)
    for line in placed.lines:
        _line(axes, hookup, placed, line)
    wrong = {pin for note in faults for pin in note.pins}
    for pin in placed.pins:
        _pin(axes, hookup, pin, wrong=str(pin.end) in wrong)
    _lists(axes, lists, below)
    return figure


def _words(
    axes: Axes,
    x: float,
    y: float,
    words: str,
    *,
    size: float = 7.5,
    colour: str = INK["text"],
    bold: bool = False,
    right: bool = False,
) -> None:
    """A text that is never parsed as a formula."""
    axes.text(
        x,
        y,
        words,
        fontsize=size,
        color=colour,
        va="center",
        ha="right" if right else "left",
        parse_math=False,
        fontweight="bold" if bold else "normal",
    )


def _y(row: float) -> float:
    return TOP + row * ROW


def _columns(axes: Axes, hookup: Hookup, placed: Layout) -> None:
    """Draw names and boxes of parts and boards."""
    for heads, left in ((placed.heads, True), (placed.board_heads, False)):
        for head in heads:
            _head(axes, head, left=left)
    for end, row in placed.board_pins:
        _words(axes, RIGHT + 2, _y(row), end.pin, bold=True)
        _words(axes, RIGHT + 13, _y(row), _role(hookup, end), size=6, colour=INK["faint"])
        axes.plot([RIGHT], [_y(row)], marker="o", markersize=2.2, color=INK["text"], gid=f"pin-{end}")


def _role(hookup: Hookup, end: End) -> str:
    """The role of a board's pin here."""
    for join in hookup.joins_at(end):
        roles = used_roles(hookup, join)
        if roles is not None:
            return roles[join.ends.index(end)]
    return hookup.pin(end).roles[0]


def _head(axes: Axes, head: Head, *, left: bool) -> None:
    part, y = head.part, _y(head.row)
    at = f", {shown_address(part.address)}" if part.address is not None else ""
    x = LEFT if left else RIGHT
    axes.plot([x - BOX_W if left else x, x if left else x + BOX_W], [y + 2.4] * 2, color=INK["hairline"], linewidth=0.5)
    _words(axes, x if left else x + 2, y, part.name, bold=True, right=left, size=8.5)
    if left:
        _words(axes, x + 2, y, f"{part.kind.name}{at}", size=6.5, colour=INK["faint"])
    else:
        _words(axes, x + 2, y - 3.4, part.kind.name, size=6.5, colour=INK["faint"])


def _pin(axes: Axes, hookup: Hookup, pin: PinRow, *, wrong: bool) -> None:
    """Draw a pin, the colour of its wire, and a flag where there is no line."""
    y = _y(pin.row)
    colour = INK["rubric"] if wrong else INK["text"]
    _words(axes, LEFT - 2, y, f"† {pin.end.pin}" if wrong else pin.end.pin, right=True, colour=colour, bold=wrong)
    axes.plot([LEFT], [y], marker="o", markersize=2.2, color=colour, gid=f"pin-{pin.end}")
    if pin.join is None:
        _words(axes, LEFT + 2, y, "open", colour=INK["rubric"], bold=True)
        return
    if not pin.flag:
        return
    colour = WIRES.get(pin.join.colour, INK["faint"])
    axes.plot([LEFT, LEFT + 12], [y, y], color=colour, linewidth=1.1, gid=f"join-{pin.join.index}")
    axes.plot([LEFT + 12], [y], marker=">", markersize=3, color=colour)
    _words(axes, LEFT + 14, y, f"{pin.flag}{_through(hookup, pin.join)}", bold=True, size=6.5)
    _words(axes, LEFT + 6, y - 1.3, pin.join.colour, size=5, colour=INK["faint"])


def _through(hookup: Hookup, join: Join) -> str:
    part = hookup.through(join)
    return f" through {part.name}" if part is not None else ""


def _line(axes: Axes, hookup: Hookup, placed: Layout, line: Line) -> None:
    """Draw a wire with its colour's name at its start and the part it runs through at its end."""
    first, last = LEFT + 44, RIGHT - 28
    x = first + (last - first) * (line.track + 0.5) / max(placed.tracks, 1)
    left, right = _y(line.left), _y(line.right)
    colour = WIRES.get(line.join.colour, INK["faint"])
    axes.plot(
        [LEFT, x, x, RIGHT],
        [left, left, right, right],
        color=colour,
        linewidth=1.1,
        solid_joinstyle="round",
        gid=f"join-{line.join.index}",
    )
    _words(axes, LEFT + 2, left - 1.3, line.join.colour, size=5, colour=INK["faint"])
    part = hookup.through(line.join)
    if part is not None:
        from matplotlib.patches import Rectangle

        axes.add_patch(
            Rectangle(
                (RIGHT - 26, right - 1.5),
                22,
                3,
                facecolor="white",
                edgecolor=colour,
                linewidth=0.6,
                zorder=3,
                gid=f"through-{line.join.index}",
            )
        )
        axes.text(
            RIGHT - 15,
            right,
            part.name[:20],
            fontsize=5,
            ha="center",
            va="center",
            color=INK["text"],
            zorder=4,
            parse_math=False,
        )


def _value_of(part: Part, parameter: Parameter) -> str:
    """A number with its unit; texts, such as pin assignments, only where they are not the default."""
    value = part.values.get(parameter.name)
    if value is None or (parameter.kind == "text" and value == parameter.default):
        return ""
    is_text = parameter.kind == "text"
    return f"{parameter.title} {value if is_text else shown(part.value(parameter.name), parameter.unit)}"


def _part_line(hookup: Hookup, part: Part) -> str:
    values = ", ".join(filter(None, (_value_of(part, each) for each in part.kind.parameters)))
    where = ""
    if part.kind.group == "between":
        count = sum(join.through == part.name for join in hookup.joins)
        where = f" · {count} pieces" if count > 1 else ""
    at = f" at {shown_address(part.address)}" if part.address is not None else ""
    return f"{part.name}: {part.kind.name}{at}{', ' if values else ''}{values}{where}"


def _pull_line(join: Join) -> str:
    colour = f", {join.colour}" if join.colour else ""
    return f"{join.pin} to {join.to}{f' through {join.through}' if join.through else ''}{colour}"


def _sum_line(each: Sum) -> str:
    result = each.result()
    values = ", ".join(str(value) for name, value in result.part.items() if name != "kind")
    outcome = f"{each.part}: {result.part['kind']} of {values}" if result.part else result.warning
    return f"{each.name}, {each.kind.name}: {each.kind.formula}. {outcome}"


def _lists(axes: Axes, lists: Sequence[tuple[str, Sequence[str]]], y: float) -> None:
    for name, lines in lists:
        colour = INK["rubric"] if name == "cannot work" else INK["text"]
        _words(axes, MARGIN, y, name, bold=True, size=8, colour=colour)
        y += LIST_ROW * 1.1
        for line in lines:
            _words(axes, MARGIN + 3, y, line, size=6, colour=colour)
            y += LIST_ROW
        y += LIST_ROW * 1.1
