"""Glass, what only pixel panels have: fonts and pictures of one's own, a close look, what items cost."""

from __future__ import annotations

from collections.abc import Sequence
from functools import singledispatch

from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import Item, size_of
from lesart.core.glass.faces.legibility import COMFORT_MINUTES, LEAST_MINUTES, read_from_m
from lesart.core.glass.faces.moving import window_of_picture
from lesart.core.glass.faces.panel_memory import Redraws
from lesart.core.glass.faces.partial_redraw import bytes_touched
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT, PixelPanel
from lesart.core.glass.panels.pixels import frame_of, inverted
from lesart.core.glyphs.fonts import FONT_NAMES, FONTS, Font, text_rows
from lesart.core.notes import Key
from lesart.core.quantity import counted, plain_number
from lesart.core.step import Step
from lesart.desk.entries.glass.leaves import selected_item
from lesart.desk.workspace.context import Context, label, number, rows_of, text, value
from lesart.desk.workspace.glass.lamps import drawn_at_most, drawn_now
from lesart.project.assets.font_files import FONT_FILE
from lesart.project.assets.shown_picture import PICTURE_FILE, ShownPicture
from lesart.study.glass import glass_of
from lesart.study.views import Glass, Line, Span

SHOWN_WIDTH, SHOWN_HEIGHT = 146, 72
"""Pixels that the large view has room for as dots."""
APART = 4
SAMPLE = "0123456789 -42.8 °C µΩ "


@singledispatch
def pixel_figures(panel: Panel, context: Context, face: Face, found: Redraws | None) -> list[Line]:
    """Bus cost of the selected item and the whole face, and pixels that never go dark; for pixel panels only."""
    return []


@pixel_figures.register
def _(panel: PixelPanel, context: Context, face: Face, found: Redraws | None) -> list[Line]:
    if not face.items:
        return []
    item = face.items[selected_item(context.state)[1]]
    whole, alone = panel.frame_size, bytes_touched(panel, item)
    lines: list[Line] = [
        (
            label("drawn alone "),
            text(f"{alone} of {whole} bytes"),
            label(", "),
            text(number(1e3 * panel.bus.transfer_s(alone), "ms", 3)),
            label("; the whole face "),
            text(number(1e3 * panel.bus.transfer_s(whole), "ms", 3)),
            label(f" by {panel.bus.kind}"),
        )
    ]
    window = window_of_picture(item, panel)
    if window is not None:
        lines.append(
            (
                label("what moves in it "),
                text(counted(window.size, "byte")),
                label(f", {_across(panel)} {window.left} to {window.right - 1}, {_down(panel)} {window.top} to "),
                label(f"{window.foot - 1}; at most "),
                text(number(window.rate_hz, "", 3)),
                label(" a second"),
            )
        )
    if isinstance(panel, LampPanel):
        return [*lines, drawn_now(panel, context)]
    if found is not None and found.lit_in_all is not None and panel.is_self_lit:
        lines.append(_worn(face, panel, found.lit_in_all))
    return lines


def _across(panel: PixelPanel) -> str:
    return "modules" if panel.modules else "columns"


def _down(panel: PixelPanel) -> str:
    """How the pixels of a byte lie."""
    if panel.modules:
        return "numbers"
    return "rows" if panel.planes else "rows of bytes"


def _worn(face: Face, panel: PixelPanel, always: PixelFrame) -> Line:
    """Pixels lit in all sampled frames: those age, and stay visible when something else is shown."""
    total = panel.columns * panel.rows
    share = plain_number(100 * always.lit_count / total, 2)
    most = max(face.items, key=lambda item: _lit_in(always, item, panel))
    words: Line = (label("never dark "), text(f"{counted(always.lit_count, 'pixel')}, {share} %"))
    if not _lit_in(always, most, panel):
        return words
    return (*words, label(", most in the "), text(most.named()[:24]), label("; these burn in"))


def _lit_in(frame: PixelFrame, item: Item, panel: PixelPanel) -> int:
    return frame.part(item.column, item.row, *size_of(item, panel)).lit_count


def panel_figures(panel: PixelPanel) -> list[Line]:
    """Bus time of a frame, and needs of its backlight."""
    whole = panel.frame_size
    seconds, shown_s = panel.bus.transfer_s(whole), panel.shown_after_s(whole)
    lines: list[Line] = [
        (
            label("a frame takes "),
            text(number(1e3 * seconds, "ms", 3)),
            *((label(", shows after "), text(number(shown_s, "s", 3))) if panel.change.usual_s else ()),
            label(", at most "),
            text(number(1 / shown_s, "", 3)),
            label(" a second"),
        ),
        (
            label("its pixels take "),
            text(f"{number(panel.columns * panel.pitch_mm, '', 4)} × {number(panel.rows * panel.pitch_mm, 'mm', 4)}"),
        ),
    ]
    if isinstance(panel, LampPanel):
        lines.append(drawn_at_most(panel))
    if panel.has_light_behind:
        lines.append((label("backlight     line high "), text(number(panel.backlight_duty, "%", 3))))
    return lines


# Fonts


def font_lines(context: Context, panel: PixelPanel) -> list[Line]:
    """Own fonts in rows, and built-in ones."""
    name, font = _font_looked_at(context, panel)
    lines: list[Line] = [
        (
            text(f"   {name}", "verdigris", bold=True),
            label(
                f"   {counted(len(font.glyphs), 'letter')}, {font.ascent} above the "
                f"line, {font.descent} below, a digit {font.pitch or font.widest + font.gap} wide"
            ),
        ),
        _read_from(font, panel),
        (),
    ]
    for each in context.project.tables.get("fonts") or {}:
        key: Key = ("fonts", each)
        lines.append((label(f"   {each}  "), value(context.project, (*key, "file"))))
        if str(context.project.tables["fonts"][each].get("file", "")).lower().endswith((".ttf", ".otf")):
            lines += [(label("      "), *row) for row in rows_of(context.project, key, FONT_FILE[1:])]
        if key in context.project.unread:
            lines.append((text(f"      {context.project.unread[key]}", "rubric"),))
    if not context.project.tables.get("fonts"):
        lines.append(
            (
                label("   No font of your own yet; "),
                text("+", "ochre"),
                label(": mine < fonts/mine.bdf, or a .ttf"),
            )
        )
    row: list[Span] = []
    for each in FONT_NAMES:
        row.append(text(f"{each}   ", "verdigris" if each == name else "faint", bold=each == name))
    built = [tuple(row[first : first + 6]) for first in range(0, len(row), 6)]
    return [
        *lines,
        (),
        (label("   built in; "), text("f", "ochre"), label(" goes to the next")),
        *[(label("   "), *each) for each in built],
    ]


def _read_from(font: Font, panel: PixelPanel) -> Line:
    """Height of a capital on this panel, and its reading distance."""
    high_mm = font.ascent * panel.pitch_mm
    return (
        label("   on this panel a capital is "),
        text(number(high_mm, "mm", 2)),
        label(" high, read up to "),
        text(number(read_from_m(high_mm, LEAST_MINUTES), "m", 2)),
        label(", comfortably up to "),
        text(number(read_from_m(high_mm, COMFORT_MINUTES), "m", 2)),
    )


def fonts_of(panel: Panel) -> tuple[str, ...]:
    """All fonts, a person's own first."""
    return (*(panel.grid.fonts if panel.grid is not None else ()), *FONTS)


def _font_looked_at(context: Context, panel: PixelPanel) -> tuple[str, Font]:
    """The font that f went to, or whose row is selected, else the first own one, else the default."""
    selected = context.state.selected_at(Step.GLASS)
    chosen = [str(selected[1])] if selected and selected[0] == "fonts" else []
    names = [context.state.glass.font, *chosen, *panel.fonts, DEFAULT_FONT]
    name = next(each for each in names if each in fonts_of(panel))
    return name, panel.font(name)


def font_glass(context: Context, panel: PixelPanel) -> Glass:
    """A font's letters on this panel, line by line, as many as fit; , . go to further ones."""
    _, font = _font_looked_at(context, panel)
    letters = [*SAMPLE, *(each for each in sorted(font.glyphs) if each not in SAMPLE)]
    pages = specimen(font, letters, panel.columns, panel.rows)
    return glass_of(panel, pages[context.state.glass.font_page % len(pages)])


def specimen(font: Font, letters: Sequence[str], columns: int, rows: int) -> list[PixelFrame]:
    """Letters in lines, in as many frames as needed."""
    left, lines = list(letters), []
    while left:
        line = [left.pop(0)]
        while left and font.measure([*line, left[0]]) <= columns:
            line.append(left.pop(0))
        lines.append(line)
    a_page = max((rows + 1) // (font.height + 1), 1)
    frames = []
    for first in range(0, len(lines), a_page):
        drawn: list[int] = []
        for line in lines[first : first + a_page]:
            width, bits = text_rows(font, line)
            shift = columns - width
            drawn += [*(row << shift if shift >= 0 else row >> -shift for row in bits), 0]
        frames.append(PixelFrame(columns, rows, tuple((drawn + [0] * rows)[:rows])))
    return frames


# Pictures


def picture_lines(context: Context, panel: Panel) -> list[Line]:
    """Pictures in rows; for the one looked at each way to dither with its figures."""
    pictures = context.project.tables.get("pictures") or {}
    if not pictures:
        return [
            (label("No picture yet; "), text("+", "ochre"), label(" adds one from a file: moon < pictures/moon.png"))
        ]
    name, shown = _picture_looked_at(context)
    lines: list[Line] = [*_way_lines(shown), ()] if shown is not None else []
    for each in pictures:
        key: Key = ("pictures", each)
        lines.append((label(f"   {each}  "), value(context.project, (*key, "file"))))
        if each == name:
            lines += [(label("      "), *row) for row in rows_of(context.project, key, PICTURE_FILE[1:])]
    costs = _costs(panel, shown) if shown is not None and not shown.said else []
    return [*lines, (), *costs] if costs else lines


def _picture_looked_at(context: Context) -> tuple[str, ShownPicture | None]:
    """The picture whose row is selected, else the first."""
    selected = context.state.selected_at(Step.GLASS)
    names = list(context.project.tables.get("pictures") or {})
    name = str(selected[1]) if selected and selected[0] == "pictures" else names[0]
    return name, context.project.pictures.get(name)


def _way_lines(shown: ShownPicture) -> list[Line]:
    if shown.said:
        return [(text(f"   {shown.said}", "rubric"),)]
    lines: list[Line] = []
    for each in shown.ways:
        mark = text(" ▌ ", "rubric") if each.way == shown.way else text("   ")
        lines.append(
            (
                mark,
                text(f"{each.way:<12}"),
                label("greys off by "),
                text(f"{100 * each.tone_error:4.1f} %"),
                label("   lone pixels "),
                text(f"{100 * each.lone:4.1f} %"),
            )
        )
    return lines


@singledispatch
def _costs(panel: Panel, shown: ShownPicture) -> list[Line]:
    """Memory of its frames, and how fast the bus of the panel in front can show them; for pixel panels only."""
    return []


@_costs.register
def _(panel: PixelPanel, shown: ShownPicture) -> list[Line]:
    first = shown.frames[0]
    size, (columns, rows) = panel.size_of(first.width, first.height), panel.padded(first.width, first.height)
    frames = len(shown.frames)
    many = counted(frames, "frame")
    lines: list[Line] = [
        (
            text(f"   {first.width}×{first.height}"),
            label(f", {many}, "),
            text(f"{size * frames} bytes"),
            label("; by the bus of "),
            text(panel.name),
            label(" at most "),
            text(number(1 / panel.shown_after_s(size), "", 3)),
            label(" a second"),
        )
    ]
    if columns or rows:
        more = f"{counted(columns, 'column')} and {counted(rows, 'row')}"
        lines.append((label(f"   padded by {more}, since a byte holds eight pixels"),))
    if shown.more:
        lines.append((label(f"   {counted(shown.more, 'more frame')} left out"),))
    return lines


def picture_glass(panel: Panel, context: Context) -> Glass | None:
    """All ways side by side, the present one marked; for a large picture its middle."""
    if not context.project.tables.get("pictures"):
        return None
    _, shown = _picture_looked_at(context)
    if shown is None or not shown.ways:
        return None if shown is None else glass_of(panel, shown.frames[0])
    is_inverted = bool((context.project.tables["pictures"][_picture_looked_at(context)[0]]).get("invert"))
    frames = [frame_of(each.pixels) for each in shown.ways]
    frames = [inverted(frame) for frame in frames] if is_inverted else frames
    room = (SHOWN_WIDTH - APART * (len(frames) - 1)) // len(frames)
    width, height = min(frames[0].width, room), min(frames[0].height, SHOWN_HEIGHT)
    left, top = (frames[0].width - width) // 2, (frames[0].height - height) // 2
    total = len(frames) * width + (len(frames) - 1) * APART
    rows, marked = [0] * height, []
    for place, (frame, way) in enumerate(zip(frames, shown.ways, strict=True)):
        at = place * (width + APART)
        for y, row in enumerate(frame.part(left, top, width, height).rows):
            rows[y] |= row << (total - at - width)
        if way.way == shown.way:
            marked += [(-1, at, at + width), (height, at, at + width)]
    glass = glass_of(panel, PixelFrame(total, height, tuple(rows)))
    return Glass(glass.name, glass.says, glass.frame, glass.ground, glass.lit, glass.unlit, marked=tuple(marked))
