"""Text drawn into a frame of pixels, in C: each field at its place and in its font, as the desk draws it."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.in_c import INDENT, WIDE
from lesart.core.pack.program.plain import plain

ALIGNED = ("left", "right", "centre")


@dataclass(frozen=True)
class Dots:
    """Where a pixel lies in a frame.

    ``columns`` and ``rows`` are those that a person sees; ``turns`` quarters clockwise and ``mirror`` as it is built
    in; ``wide`` are bytes of a row or page, ``high`` how many there are, in the orders that the controller wants;
    ``offset`` columns are before those of the glass.
    """

    columns: int
    rows: int
    turns: int
    mirror: bool
    by_pages: bool
    wide: int
    high: int
    offset: int
    low_first: bool
    from_bottom: bool
    from_right: bool
    inverted: bool
    by_modules: str = ""
    """For 8×8 modules: whether their numbers are those of ``rows`` or of ``columns``."""


@dataclass(frozen=True)
class LetterTable:
    """The needed part of a font: ``glyphs`` by code with their width and rows, the fallback last."""

    name: str
    says: str
    height: int
    gap: int
    pitch: int
    glyphs: Sequence[tuple[int, int, tuple[int, ...]]]


@dataclass(frozen=True)
class FieldDrawn:
    """A function that draws cells of ``bits`` each: ``room`` pixels are cleared first, 0 for none.

    It is on a ``face``, with the ``cells`` of a ``channel``, all by their names in code.
    """

    name: str
    says: str
    font: str
    row: int
    column: int
    room: int
    align: str
    count: int
    bits: int
    face: str
    channel: str
    cells: str


@dataclass(frozen=True)
class MarkDrawn:
    """A function that draws a text while an alarm is on, and clears its place while none is."""

    name: str
    says: str
    font: str
    row: int
    column: int
    room: int
    codes: Sequence[int]


@dataclass(frozen=True)
class BarDrawn:
    """A function that draws a reading as a length: ``filled_from`` are the steps from which one pixel, two, … are
    filled; a reading with one of the marks ``bad``, or older than ``stale_ms``, strikes it through, or without an
    outline lights every other pixel."""

    name: str
    says: str
    row: int
    column: int
    tall: int
    filled_from: Sequence[int]
    bad: int
    stale_ms: int
    face: str
    channel: str
    is_outlined: bool = True


@dataclass(frozen=True)
class Letters:
    """Everything drawn on a panel."""

    dots: Dots
    fonts: Sequence[LetterTable]
    fields: Sequence[FieldDrawn]
    marks: Sequence[MarkDrawn]
    bars: Sequence[BarDrawn] = ()


def letters_header(name: str, letters: Letters) -> list[str]:
    """Declarations."""
    lines = [
        "/* A pixel of a frame, counted as one sees it; what lies outside is left alone. */",
        f"void {name}_dot(uint8_t *wanted, uint16_t x, uint16_t y, uint8_t on);",
    ]
    if letters.fields:
        lines.append("/* Cells of a field at its place in a frame, as the desk draws them. */")
    lines += [
        f"void {each.name}(uint8_t *wanted, const uint{each.bits}_t *cells); /* {plain(each.says)} */"
        for each in letters.fields
    ]
    if letters.marks:
        lines.append("/* What stands there while an alarm is on, and nothing while none is. */")
    lines += [f"void {each.name}(uint8_t *wanted, uint8_t on); /* {plain(each.says)} */" for each in letters.marks]
    if letters.bars:
        lines.append("/* A reading in its steps as a length, struck through where it is bad or old. */")
    lines += [
        f"void {each.name}(uint8_t *wanted, int32_t x, uint8_t mark, int32_t age_ms); /* {plain(each.says)} */"
        for each in letters.bars
    ]
    return lines


def letters_source(name: str, letters: Letters) -> list[str]:
    """Tables and functions."""
    parts = [_dot(name, letters.dots), *(_bar(name, each) for each in letters.bars)]
    if not letters.fonts:
        return parts
    parts += [_types(name), *(_font(name, each) for each in letters.fonts), _steps(name), _text(name)]
    parts += [_field(name, each) for each in letters.fields]
    parts += [_mark(name, each) for each in letters.marks]
    return parts


def _dot(name: str, dots: Dots) -> str:
    """The function for a dot: the rotation is undone first, then the controller's order applied."""
    lines = ["uint16_t column = x, row = y, place;", "uint8_t bit;"]
    lines += [f"if (x >= {dots.columns} || y >= {dots.rows}) {{", f"{INDENT}return;", "}"]
    if dots.mirror:
        lines.append(f"column = (uint16_t)({dots.columns - 1}u - column);")
    columns, rows = dots.columns, dots.rows
    for _ in range(dots.turns):
        lines += [
            "place = column;",
            "column = row;",
            f"row = (uint16_t)({columns - 1}u - place);",
        ]
        columns, rows = rows, columns
    if dots.by_modules:
        return _dot_of_modules(name, dots, lines)
    if dots.offset:
        lines.append(f"column = (uint16_t)(column + {dots.offset}u);")
    across, down = ("column", "(row / 8u)") if dots.by_pages else ("(column / 8u)", "row")
    within = "row" if dots.by_pages else "column"
    if dots.from_right:
        across = f"({dots.wide - 1}u - {across})"
    if dots.from_bottom:
        down = f"({dots.high - 1}u - {down})"
    shift = f"{within} % 8u" if dots.low_first else f"7u - {within} % 8u"
    lit = "!on" if dots.inverted else "on"
    lines += [f"place = (uint16_t)({down} * {dots.wide}u + {across});", f"bit = (uint8_t)(1u << ({shift}));"]
    return _whole_dot(name, lines, lit)


def _dot_of_modules(name: str, dots: Dots, lines: list[str]) -> str:
    """The function for a dot of chained modules, whose bytes follow the number of a row or column."""
    number, within = ("row", "column") if dots.by_modules == "rows" else ("column", "row")
    number = f"(7u - {number} % 8u)" if dots.from_bottom else f"({number} % 8u)"
    module = f"(row / 8u * {dots.wide}u + column / 8u)"
    count = dots.wide * dots.high
    module = f"({count - 1}u - {module})" if dots.from_right else module
    shift = f"{within} % 8u" if dots.low_first else f"7u - {within} % 8u"
    lines += [
        f"place = (uint16_t)({number} * {2 * count}u + 2u * {module} + 1u);",
        f"bit = (uint8_t)(1u << ({shift}));",
    ]
    return _whole_dot(name, lines, "!on" if dots.inverted else "on")


def _whole_dot(name: str, lines: list[str], lit: str) -> str:
    lines = [*lines, f"wanted[place] = (uint8_t)({lit} ? wanted[place] | bit : wanted[place] & ~bit);"]
    body = "\n".join(f"{INDENT}{line}" for line in lines)
    return f"void {name}_dot(uint8_t *wanted, uint16_t x, uint16_t y, uint8_t on)\n{{\n{body}\n}}"


def _types(name: str) -> str:
    return f"""\
typedef struct {{
    uint16_t code, at; /* where its rows begin */
    uint8_t width;
}} {name}_glyph;
typedef struct {{
    const {name}_glyph *glyphs; /* the last one stands for all others */
    const uint8_t *rows;
    uint16_t count;
    uint8_t height, gap, pitch;
}} {name}_font;"""


def _font(name: str, font: LetterTable) -> str:
    data, glyphs = bytearray(), []
    for code, width, rows in font.glyphs:
        glyphs.append(f"{{ {code}, {len(data)}, {width} }}")
        size = -(-width // 8)
        for row in rows:
            data += (row << 8 * size - width).to_bytes(size, "big")
    own = f"{name}_{font.name}"
    last = len(glyphs) - 1
    return "\n".join(
        [
            f"/* {plain(font.says)}: rows of its letters, the leftmost pixel in the highest bit. */",
            f"static const uint8_t {own}_rows[{len(data)}] = {{",
            *_lines([f"0x{each:02X}" for each in data]),
            "};",
            f"static const {name}_glyph {own}_glyphs[{len(glyphs)}] = {{",
            *_lines(glyphs),
            "};",
            f"static const {name}_font {own} = {{",
            f"{INDENT}{own}_glyphs, {own}_rows, {last}, {font.height}, {font.gap}, {font.pitch}",
            "};",
        ]
    )


def _lines(pieces: Sequence[str]) -> list[str]:
    lines, row = [], INDENT
    for piece in pieces:
        if len(row) + len(piece) + 2 > WIDE:
            lines.append(row.rstrip())
            row = INDENT
        row += f"{piece}, "
    return [*lines, row.rstrip()]


def _steps(name: str) -> str:
    """The code that looks up glyphs and advances."""
    return f"""\
static const {name}_glyph *{name}_find(const {name}_font *font, uint16_t code)
{{
    uint16_t i = 0;
    while (i < font->count && font->glyphs[i].code != code) {{
        i++;
    }}
    return font->glyphs + i;
}}

static uint16_t {name}_code(const uint8_t *small, const uint16_t *large, uint8_t at)
{{
    return large ? large[at] : small[at];
}}

static uint16_t {name}_step(const {name}_font *font, uint16_t code)
{{
    return font->pitch ? font->pitch : (uint16_t)({name}_find(font, code)->width + font->gap);
}}"""


def _text(name: str) -> str:
    """The function for a text without blanks at either end, which only pad the cells of a field."""
    return f"""\
static void {name}_text(uint8_t *wanted, const {name}_font *font, uint16_t row, uint16_t column, uint16_t room,
    uint8_t align, const uint8_t *small, const uint16_t *large, uint8_t count)
{{
    uint16_t x, y, wide = 0;
    uint8_t first = 0, i;
    for (x = 0; x < room; x++) {{
        for (y = 0; y < font->height; y++) {{
            {name}_dot(wanted, (uint16_t)(column + x), (uint16_t)(row + y), 0);
        }}
    }}
    while (first < count && {name}_code(small, large, first) == 32u) {{
        first++;
    }}
    while (count > first && {name}_code(small, large, (uint8_t)(count - 1)) == 32u) {{
        count--;
    }}
    if (first == count) {{
        return;
    }}
    for (i = first; i < count; i++) {{
        wide = (uint16_t)(wide + {name}_step(font, {name}_code(small, large, i)));
    }}
    wide = (uint16_t)(wide - font->gap);
    if (align && room > wide) {{
        column = (uint16_t)(column + (room - wide) / align);
    }}
    for (x = 0; x < wide; x++) {{
        for (y = 0; y < font->height; y++) {{
            {name}_dot(wanted, (uint16_t)(column + x), (uint16_t)(row + y), 0);
        }}
    }}
    x = 0;
    for (i = first; i < count; i++) {{
        const {name}_glyph *glyph = {name}_find(font, {name}_code(small, large, i));
        const uint8_t *bits = font->rows + glyph->at;
        uint16_t left = x, across;
        if (font->pitch > font->gap + glyph->width) {{
            left = (uint16_t)(left + (font->pitch - font->gap - glyph->width) / 2);
        }}
        for (y = 0; y < font->height; y++) {{
            for (across = 0; across < glyph->width && left + across < wide; across++) {{
                if (bits[across / 8u] & (0x80u >> (across % 8u))) {{
                    {name}_dot(wanted, (uint16_t)(column + left + across), (uint16_t)(row + y), 1);
                }}
            }}
            bits += (glyph->width + 7u) / 8u;
        }}
        x = (uint16_t)(x + {name}_step(font, glyph->code));
    }}
}}"""


def _field(name: str, field: FieldDrawn) -> str:
    align = ALIGNED.index(field.align) if field.room else 0
    cells = "cells, 0" if field.bits == 8 else "0, cells"
    return f"""\
void {field.name}(uint8_t *wanted, const uint{field.bits}_t *cells)
{{
    {name}_text(wanted, &{name}_{field.font}, {field.row}, {field.column}, {field.room}, {align}, {cells},
        {field.count});
}}"""


def _mark(name: str, mark: MarkDrawn) -> str:
    codes = ", ".join(map(str, mark.codes))
    return f"""\
void {mark.name}(uint8_t *wanted, uint8_t on)
{{
    static const uint16_t codes[{len(mark.codes)}] = {{ {codes} }};
    {name}_text(wanted, &{name}_{mark.font}, {mark.row}, {mark.column}, {mark.room}, 0, 0, codes,
        (uint8_t)(on ? {len(mark.codes)} : 0));
}}"""


def _bar(name: str, bar: BarDrawn) -> str:
    wide = len(bar.filled_from)
    table = "\n".join(f"    {line}" for line in _lines([str(each) for each in bar.filled_from]))
    also = f"across == 0 || across == {wide - 1} || down == 0\n                || down == {bar.tall - 1}"
    also += f" || (is_bad && down == {bar.tall // 2})"
    if not bar.is_outlined:
        also = "(is_bad && across % 2 == 0)"
    return f"""\
void {bar.name}(uint8_t *wanted, int32_t x, uint8_t mark, int32_t age_ms)
{{
    static const int32_t filled_from[{wide}] = {{
{table}
    }};
    uint8_t is_bad = (uint8_t)((mark & {bar.bad}) != 0 || age_ms > {bar.stale_ms});
    uint16_t filled = 0, across, down;
    while (!is_bad && filled < {wide} && x >= filled_from[filled]) {{
        filled++;
    }}
    for (across = 0; across < {wide}; across++) {{
        for (down = 0; down < {bar.tall}; down++) {{
            uint8_t on = (uint8_t)(across < filled || {also});
            {name}_dot(wanted, (uint16_t)({bar.column} + across), (uint16_t)({bar.row} + down), on);
        }}
    }}
}}"""
