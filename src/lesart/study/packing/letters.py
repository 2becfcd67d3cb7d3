"""What firmware needs to draw the numbers of a pixel panel: the used parts of fonts, places of fields."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from lesart.core.block import UNUSABLE
from lesart.core.fit.cells import split_cells
from lesart.core.fit.field import GROUPS, POINT_LETTERS, Reading
from lesart.core.glass.bus.transmissions import cells_of
from lesart.core.glass.faces.face import BARE, Face
from lesart.core.glass.faces.items import LEAST_OUTLINED, AlarmMark, Bar, FieldItem, size_of, texts_of
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.packing import BYTE, MODULE_COLUMNS, MODULE_ROWS, PAGES
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glyphs.fonts import DIGITS, Font
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.field_forms.wanted import most_code
from lesart.core.pack.program.whole import LONGEST_MS
from lesart.core.pack.written.c_channel import reading_range
from lesart.core.pack.written.c_letters import BarDrawn, Dots, FieldDrawn, Letters, LetterTable, MarkDrawn
from lesart.project.model import Project
from lesart.study.packing.wanted import code_names, field_wanted, short_names

NONE = 0
"""The code of the fallback glyph: no letter has it."""
Drawn = FieldItem | AlarmMark
Forms = Mapping[str, ChannelForm]
NO_FORMS: Forms = {}


def letters_of(
    project: Project, panel: PixelPanel, name: str, words: Mapping[str, str], forms: Forms = NO_FORMS
) -> Letters:
    """``name`` is the panel's identifier, ``words`` are those of its faces; ``forms`` are channels in integers, from
    which bars are drawn. Moving texts are left to the person's firmware."""
    drawn = [
        (face, item)
        for face in project.faces_on(panel.name)
        for item in face.items
        if isinstance(item, FieldItem | AlarmMark) and item.motion.is_still
    ]
    fonts = code_names(dict.fromkeys(item.font for _, item in drawn), before="font_")
    tables = [
        _table(fonts[font], panel.font(font), "".join(_letters(item) for _, item in drawn if item.font == font))
        for font in fonts
    ]
    called = _called(project, drawn, name, words)
    fields = [
        _field(project, panel, face, item, called[place], fonts[item.font], words[face.name])
        for place, (face, item) in enumerate(drawn)
        if isinstance(item, FieldItem)
    ]
    marks = [
        _mark(panel, face, item, called[place], fonts[item.font])
        for place, (face, item) in enumerate(drawn)
        if isinstance(item, AlarmMark)
    ]
    bars = []
    for face in project.faces_on(panel.name):
        there = (item for item in face.items if isinstance(item, Bar) and item.channel in forms)
        for which, item in _numbered(there):
            form, word = forms[item.channel], words[face.name]
            bar = _bar(form, face, item, f"{name}_draw_{word}_{form.wanted.name}_bar{which}")
            bars.append(replace(bar, face=word))
    return Letters(_dots(panel), tables, fields, marks, bars)


def _numbered(bars: Iterable[Bar]) -> Iterator[tuple[str, Bar]]:
    """A name with a number where a channel has several of them."""
    seen: dict[str, int] = {}
    for bar in bars:
        seen[bar.channel] = seen.get(bar.channel, 0) + 1
        yield (f"_{seen[bar.channel]}" if seen[bar.channel] > 1 else ""), bar


def _bar(form: ChannelForm, face: Face, item: Bar, name: str) -> BarDrawn:
    """A bar, its steps found by bisection: more steps never fill less."""
    low, high = reading_range(form)

    def filled(x: int) -> int:
        share = item.share({item.channel: Reading(form.scale.value(x))})
        return 0 if share is None else round(share * item.width)

    def least(count: int) -> int:
        return low + bisect_left(range(low, high + 1), count, key=filled)

    return BarDrawn(
        name=name,
        says=f"bar of {item.channel} on face {face.name}",
        row=item.row,
        column=item.column,
        tall=item.tall,
        filled_from=[least(count) for count in range(1, item.width + 1)],
        bad=int(UNUSABLE),
        stale_ms=min(int(item.field.stale_after_s * 1000), LONGEST_MS - 1),
        face=face.name,
        channel=form.wanted.name,
        is_outlined=item.tall >= LEAST_OUTLINED,
    )


def _called(project: Project, drawn: Sequence[tuple[Face, Drawn]], name: str, words: Mapping[str, str]) -> list[str]:
    """Names of the functions; a channel may be on a face several times."""
    channels, seen, found = code_names(project.channels), dict[str, int](), []
    for face, item in drawn:
        word = f"{name}_draw_{words[face.name]}_{channels[item.channel]}"
        word += "_alarm" if isinstance(item, AlarmMark) else ""
        seen[word] = seen.get(word, 0) + 1
        found.append(f"{word}_{seen[word]}" if seen[word] > 1 else word)
    return found


def _letters(item: Drawn) -> str:
    """Every letter that an item may show."""
    also = ""
    if isinstance(item, FieldItem):
        also = f"{DIGITS}+- {POINT_LETTERS[item.field.point]}{GROUPS[item.field.group]}"
    return "".join(texts_of(item)) + also


def _table(name: str, font: Font, letters: Iterable[str]) -> LetterTable:
    glyphs = [(ord(letter), font.glyphs[letter]) for letter in sorted({*letters, " "}) if letter in font.glyphs]
    glyphs.append((NONE, font.glyph(chr(NONE))))
    rows = [(code, glyph.width, glyph.rows) for code, glyph in glyphs]
    return LetterTable(name, f"font {font.name}", font.height, font.gap, font.pitch, rows)


def _field(
    project: Project, panel: PixelPanel, face: Face, item: FieldItem, name: str, font: str, on_face: str
) -> FieldDrawn:
    channel = code_names(project.channels)[item.channel]
    short = short_names(project, item.channel)[panel.name, face.name, item.index]
    return FieldDrawn(
        name=name,
        says=f"{item.channel} on face {face.name}",
        font=font,
        row=item.row,
        column=item.column,
        room=0 if face.writes == BARE else size_of(item, panel)[0],
        align=item.field.align,
        count=item.field.width,
        bits=8 if most_code(field_wanted(panel, channel, short, face, item)) <= 0xFF else 16,
        face=on_face,
        channel=channel,
        cells=f"{short}_cells",
    )


def _mark(panel: PixelPanel, face: Face, item: AlarmMark, name: str, font: str) -> MarkDrawn:
    codes = [ord(cell.letter) for cell in split_cells(item.text, joined=panel.joined)]
    says = f"alarm mark of {item.channel} on face {face.name}"
    return MarkDrawn(name, says, font, item.row, item.column, size_of(item, panel)[0], codes)


def _dots(panel: PixelPanel) -> Dots:
    """The dots of a frame as firmware keeps it: for colours one bit per pixel, row by row."""
    packing = panel.packing
    if isinstance(panel, ColourPanel):
        wide, high = -(-panel.width // 8), panel.height
    elif panel.modules:
        wide, high = panel.width // BYTE, panel.height // BYTE
    else:
        wide, high = cells_of(panel)
    return Dots(
        columns=panel.columns,
        rows=panel.rows,
        turns=panel.turns,
        mirror=panel.mirror,
        by_pages=packing.bytes == PAGES,
        wide=wide,
        high=high,
        offset=packing.offset,
        low_first=packing.low_first,
        from_bottom=packing.from_bottom,
        from_right=packing.from_right,
        inverted=packing.inverted,
        by_modules={MODULE_ROWS: "rows", MODULE_COLUMNS: "columns"}.get(packing.bytes, ""),
    )
