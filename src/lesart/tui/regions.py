"""Regions of the screen that are plain lines: title, thread, margin, glass, notes, keys."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from rich.cells import cell_len

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step
from lesart.study.views import Glass, NoteRow, Picture, ThreadStep
from lesart.tui.paint import Pieces, cut, piece, rule, spans, width_of
from lesart.tui.panels.drawn import Drawn, drawn
from lesart.tui.panels.room import Means, Room, Way
from lesart.tui.theme import Palette, style
from lesart.tui.widgets.lines import InPixels

KEYS_WIDE = (
    ("0–9", "step"),
    ("↑↓", "channel"),
    ("+", "add"),
    ("n m", "note, mend"),
    ("?", "keys"),
    ("ctrl+s", "save"),
    ("tab", "values"),
    ("enter ← →", "edit"),
    ("/", "find"),
    (", .", "cursor"),
    ("space", "play"),
    ("h", "hand"),
    ("g", "glass"),
    ("e", "export"),
)
"""Keys by importance: a narrow window cuts the rest."""
KEYS_SMALL = (
    ("0–9", "step"),
    ("n m", "note"),
    ("?", "keys"),
    ("ctrl+s", "save"),
    ("+", "add"),
    ("enter", "edit"),
    ("c", "channels"),
    ("g", "glass"),
    ("/", "find"),
    ("h", "hand"),
)


@dataclass(frozen=True)
class Pressed:
    """A click on the foot line: the key there, as it is shown."""

    shown: str


LITTLE_HEIGHT, LEAST_FRONT = 11, 0.75
"""Most rows of a panel after the first, and the least share of the first one even if others are cut off."""
FEW_CHANNELS = 10
"""Up to this many channels note numerals have lines of their own; with more they come after the names."""
MARKS = (("†", "rubric", "it will be wrong"), ("‡", "ochre", "doubtful"), ("·", "faint", "worth knowing"))
ONLY_HERE = "      F only those of the open step"
KEYS_PLAIN = (("?", "keys"), ("ctrl+q", "leave"))


def name_line(palette: Palette) -> Pieces:
    """The title where no project is open."""
    return [piece(palette, "L", "rubric", "raised", bold=True), piece(palette, "esart", "text", "raised")]


def title_line(palette: Palette, picture: Picture, width: int) -> Pieces:
    """The title: project, channel, capture, cursor, and unsaved work."""
    left: Pieces = [
        *name_line(palette),
        piece(palette, "  ", "text", "raised"),
        piece(palette, picture.project, "text", "raised", bold=True),
        piece(palette, " · ", "faint", "raised"),
        piece(palette, f"{picture.channel} {picture.variant}".rstrip(), "text", "raised"),
    ]
    if picture.unsaved:
        left.append(piece(palette, "  unsaved", "ochre", "raised"))
    middle: Pieces = [
        piece(palette, "    cursor ", "faint", "raised"),
        piece(palette, picture.cursor, "text", "raised"),
        piece(palette, f"  {picture.playing}", "verdigris" if picture.is_playing else "faint", "raised"),
    ]
    if picture.preview is not None:
        middle.append(piece(palette, "  as it would be", "ochre", "raised", bold=True))
    if picture.hand:
        middle.append(piece(palette, f"  {picture.hand}", "rubric", "raised", bold=True))
    if width >= 110:
        middle = [
            piece(palette, "    capture ", "faint", "raised"),
            piece(palette, picture.capture, "text", "raised"),
            *middle,
        ]
    right = piece(palette, f"{picture.rate} ", "faint", "raised")
    gap = width - width_of(left) - width_of(middle) - len(right[0])
    if gap < 1:
        return [*left, *middle]
    return [*left, *middle, piece(palette, " " * gap, "faint", "raised"), right]


def thread_lines(palette: Palette, picture: Picture, width: int) -> list[Pieces]:
    """Four rows, nine columns, and the hairline under them."""
    steps = picture.thread
    if not steps:
        return [[], [], [], [], rule(palette, width)]
    each = (width - 1) // len(steps)
    rows: list[Pieces] = [[piece(palette, " ", ground="raised")] for _ in range(4)]
    for step in steps:
        last = step is steps[-1]
        open_here = step.step == picture.workspace.step
        rows[0] += _step_name(palette, step, each, open_here)
        rows[1] += _step_value(palette, step, each, last)
        rows[2].append((cut(step.detail, each - 1) + " ", style(palette, "faint", "raised"), step))
        # Miniatures join seamlessly; words are separated.
        runs_on = step.step in _MINIATURE_TONES and step.step is not Step.CALM
        drawn = cut(step.miniature, each) if runs_on else cut(step.miniature, each - 1) + " "
        rows[3].append((drawn, style(palette, _miniature_tone(step), "raised"), step))
    return [*rows, rule(palette, width)]


_MINIATURE_TONES = {Step.RAW: "lapis", Step.LAW: "ochre", Step.TRUE: "ochre", Step.CALM: "verdigris"}


def _miniature_tone(step: ThreadStep) -> str:
    return _MINIATURE_TONES.get(step.step, "faint")


def _step_name(palette: Palette, step: ThreadStep, width: int, open_here: bool) -> Pieces:
    rest = cut(step.name[1:], width - 3)
    used = len(step.name) - 1
    tone = "rubric" if open_here else "text"
    return [
        (f"{step.number} ", style(palette, "faint", "raised"), step),
        (step.name[0], style(palette, tone, "raised", True, open_here), step),
        (rest[:used], style(palette, "text", "raised", open_here, open_here), step),
        (rest[used:], style(palette, "text", "raised"), step),
    ]


def _step_value(palette: Palette, step: ThreadStep, width: int, last: bool) -> Pieces:
    """The value, the numerals of its notes, and the arrow to the next step."""
    arrow = "  " if last else "→ "
    room = width - len(arrow)
    words = step.value.text
    if len(words) > room:
        words = cut(words.strip(), room)
    numerals = step.notes[: max(room - len(words) - 1, 0)]
    filler = " " * (room - len(words) - len(numerals) - (1 if numerals else 0))
    pieces: Pieces = [(words, style(palette, step.value.tone, "raised", step.value.tone == "cells"), step)]
    if numerals:
        pieces.append((f" {numerals}", style(palette, "rubric", "raised"), step))
    pieces.append((filler + arrow, style(palette, "faint", "raised"), step))
    return pieces


def thread_line(palette: Palette, picture: Picture, width: int) -> Pieces:
    """The thread in one line: the open step with its value, the others by name."""
    pieces: Pieces = []
    for step in picture.thread:
        if step.step == picture.workspace.step:
            pieces.append((step.name[0], style(palette, "rubric", "raised", True, True), step))
            pieces.append((step.name[1:], style(palette, "text", "raised", True, True), step))
            pieces.append(piece(palette, " ", ground="raised"))
            pieces.append((step.value.text.strip(), style(palette, step.value.tone, "raised", True), step))
            pieces.append((f" {step.notes} " if step.notes else " ", style(palette, "rubric", "raised"), step))
        else:
            pieces.append((step.name, style(palette, "faint", "raised"), step))
            if step.fault:
                pieces.append(("†", style(palette, "rubric", "raised", True), step))
        pieces.append(piece(palette, "→" if step is not picture.thread[-1] else "", "faint", "raised"))
    return pieces


def margin_lines(palette: Palette, picture: Picture, width: int, *, focused: bool, variants: bool) -> list[Pieces]:
    """Channels with their reading; the variants of the chosen one below."""
    heading: Pieces = [piece(palette, " channels", "text" if focused else "faint")]
    lines: list[Pieces] = [heading, []]
    dense = len(picture.channels) > FEW_CHANNELS
    for row in picture.channels:
        room = width - 3
        value = row.value
        name = cut(row.name, max(room - len(value) - 1, 4))
        mark, filler = "▌" if row.chosen else " ", len(name) - len(name.rstrip())
        beside = _beside(row.notes, filler) if dense else ""
        lines.append(
            [
                (mark, style(palette, "rubric"), row),
                (name.rstrip(), style(palette, "text", "ink", row.chosen, row.chosen and focused), row),
                (beside, style(palette, "rubric"), row),
                (" " * (filler - len(beside)), style(palette, "text"), row),
                (f" {value} ", style(palette, row.tone), row),
            ]
        )
        if row.notes and not dense:
            lines.append([piece(palette, cut(f"  {row.notes}", width - 1), "rubric")])
    if variants and picture.variants:
        lines += [[], [piece(palette, cut(f" variants of {picture.channel}", width - 1), "faint")], []]
        for variant in picture.variants:
            lines.append([piece(palette, " "), *spans(palette, variant)])
    return lines


def _beside(notes: str, room: int) -> str:
    """Numerals after a name, as many as fit; a dot for the rest."""
    numerals = notes.split(" ") if notes else []
    while numerals and len(" ".join(numerals)) + 1 > room:
        numerals = [*numerals[:-2], "…"] if len(numerals) > 1 else []
    return " " + " ".join(numerals) if numerals else ""


def glass_lines(palette: Palette, glasses: tuple[Glass, ...], room: Room, means: Means) -> list[Pieces]:
    """Panels below each other, the one in front first, as large as fits, and named in rubric."""
    if not glasses:
        return [
            [piece(palette, " no panel yet", "faint")],
            [piece(palette, " add one under [panels] in lesart.toml", "faint")],
        ]
    behind = [_of_panel(palette, each, replace(room, height=LITTLE_HEIGHT, little=True), means) for each in glasses[1:]]
    left = room.height - sum(len(lines) + 1 for lines in behind) - 2
    front = _of_panel(
        palette, glasses[0], replace(room, height=max(left, int(LEAST_FRONT * room.height))), means, "rubric"
    )
    lines = front
    for each in behind:
        lines += [[], *each]
    return lines


def _of_panel(palette: Palette, glass: Glass, room: Room, means: Means, tone: str = "faint") -> list[Pieces]:
    """A panel's name and picture, with a remark where it is only in miniature."""
    found = drawn(glass, room, means)
    words = f"  {glass.says}" + (f", {found.way.value}" if found.way is Way.LITTLE else "")
    head: Pieces = [
        ("glass  ", style(palette, "faint"), glass),
        (glass.name, style(palette, tone, "ink", True), glass),
        (cut(words, len(words)), style(palette, "faint"), glass),
    ]
    return [head, *drawn_lines(palette, glass, found)]


def panel_lines(palette: Palette, glass: Glass, room: Room, means: Means) -> list[Pieces]:
    """One panel, at most as large as asked."""
    return drawn_lines(palette, glass, drawn(glass, room, means))


def drawn_lines(palette: Palette, glass: Glass, found: Drawn) -> list[Pieces]:
    """A drawn, clickable panel, with what is not visible below it."""
    lines: list[Pieces] = [[(words, tone, glass) for words, tone in line] for line in found.lines]
    for parts, line in zip(found.pixels, lines, strict=False):
        line[:] = [(*each[:2], InPixels(part.escape, glass)) for part, each in zip(parts, line, strict=True)]
    return [*lines, [piece(palette, found.says, "faint")]] if found.says else lines


def notes_lines(palette: Palette, picture: Picture, width: int) -> tuple[list[Pieces], int]:
    """The list of notes, and the index of the chosen note's line."""
    lines: list[Pieces] = [_notes_head(palette, picture, width)]
    if not picture.notes:
        said = " nothing to say" if picture.notes_are_fresh else " looking for what could be wrong …"
        lines.append([piece(palette, said, "faint", "raised")])
    chosen = 0
    for row in picture.notes:
        if row.chosen:
            chosen = len(lines)
        lines += _note_lines(palette, row, width)
    return lines, chosen


@lru_cache(maxsize=512)
def _note_lines(palette: Palette, row: NoteRow, width: int) -> list[Pieces]:
    """Lines of one note, cached, since most pictures repeat them."""
    tone = {"†": "rubric", "‡": "ochre"}.get(row.mark, "faint")
    mark = "▌" if row.chosen else " "
    first: Pieces = [
        (mark, style(palette, "rubric", "raised"), row),
        (f"{row.numeral:<3}", style(palette, "rubric", "raised"), row),
        (f"{row.mark} ", style(palette, tone, "raised", True), row),
        (f"{row.step:<6}", style(palette, "ochre", "raised"), row),
    ]
    return _wrapped_note(palette, row, first, width)


def notes_folded(palette: Palette, picture: Picture) -> Pieces:
    """The number of notes where a glass takes their place: hidden notes must not seem absent."""
    if not picture.notes:
        return [piece(palette, " no notes" if picture.notes_are_fresh else " notes …", "faint", "raised")]
    of = f" on {picture.notes_of} only" if picture.notes_of else ""
    every = sum(row.count for row in picture.notes)
    line: Pieces = [piece(palette, f" {every} {'note' if every == 1 else 'notes'}{of}", "faint", "raised")]
    for mark, tone, _ in MARKS:
        count = sum(row.count for row in picture.notes if row.mark == mark)
        if count:
            line += [
                piece(palette, f"   {mark}", tone, "raised", bold=True),
                piece(palette, f" {count}", "faint", "raised"),
            ]
    return [*line, piece(palette, "   n", "ochre", "raised"), piece(palette, " goes through them", "faint", "raised")]


def _notes_head(palette: Palette, picture: Picture, width: int) -> Pieces:
    """The head of the notes: what the marks mean, and which are listed."""
    of = f" notes on {picture.notes_of} only   F lists all" if picture.notes_of else " notes"
    head: Pieces = [piece(palette, of, "faint", "raised")]
    for mark, tone, means in MARKS:
        if width_of(head) + len(means) + 6 < width:
            head += [
                piece(palette, f"   {mark}", tone, "raised", bold=True),
                piece(palette, f" {means}", "faint", "raised"),
            ]
    if not picture.notes_of and width_of(head) + len(ONLY_HERE) < width:
        head.append(piece(palette, ONLY_HERE, "faint", "raised"))
    return head


def _wrapped_note(palette: Palette, row: NoteRow, first: Pieces, width: int) -> list[Pieces]:
    """The sentence and its remedy, wrapped to the width."""
    indent = width_of(first)
    said = style(palette, "text", "raised", row.chosen)
    mends = style(palette, "verdigris", "raised")
    if indent + cell_len(row.text) + 1 + cell_len(row.remedy) <= width:
        return [[*first, (row.text, said, row), (f" {row.remedy}", mends, row)]]
    room = max(width - indent - 1, 20)
    texts = [(line, said) for line in textwrap.wrap(row.text, room)]
    texts += [(line, mends) for line in textwrap.wrap(row.remedy, room)]
    blank = piece(palette, " " * indent, ground="raised")
    return [[*(first if index == 0 else [blank]), (line, tone, row)] for index, (line, tone) in enumerate(texts)]


def walk_lines(palette: Palette, notice: str, look: str, press: str, number: str, width: int) -> list[Pieces]:
    """What there was to notice, then what to look at and the next key."""
    room = max(width - 2, 20)
    rows: list[Pieces] = [rule(palette, width)]
    rows += [[piece(palette, f" {line}", "verdigris", "raised")] for line in textwrap.wrap(notice, room)]
    rows += [[piece(palette, f" {line}", "text", "raised")] for line in textwrap.wrap(look, room)]
    last: Pieces = [piece(palette, f" {number}   ", "faint", "raised")]
    if press:
        key, _, does = press.partition(" ")
        last += [
            piece(palette, "press ", "faint", "raised"),
            piece(palette, key, "ochre", "raised", bold=True),
            piece(palette, f"  {does}", "text", "raised"),
            piece(palette, "   escape leaves the walk", "faint", "raised"),
        ]
    return [*rows, last]


def keys_line(palette: Palette, width: int, keys: Sequence[tuple[str, str]]) -> Pieces:
    """What the keys do, as many as fit."""
    pieces: Pieces = [piece(palette, " ", ground="raised")]
    for key, does in keys:
        if width_of(pieces) + len(key) + len(does) + 4 > width:
            break
        pieces += [
            (key, style(palette, "text", "raised"), Pressed(key)),
            (f" {does}   ", style(palette, "faint", "raised"), Pressed(key)),
        ]
    return pieces
