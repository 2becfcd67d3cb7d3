"""What can be wrong with a face: places, letters, glyphs, stale tails, blinking."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.fit.unit_said import wrong_unit_of_label
from lesart.core.glass.faces.face import BARE, CLEARED, PADDED, Face
from lesart.core.glass.faces.inspect_inks import inspect_inks
from lesart.core.glass.faces.inspect_letters import inspect_letters
from lesart.core.glass.faces.inspect_motion import inspect_motion
from lesart.core.glass.faces.inspect_round import inspect_round
from lesart.core.glass.faces.items import FieldItem, Label, size_of, width_of
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.faces.shapes import Box, Shape
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.contrast import contrast_on, least_contrast, readable_on, said_contrast
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_colours import COLOURS
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import REGISTERS, THROUGH, SegmentPanel
from lesart.core.notes import DOUBT, FAULT, REMARK, Mend, Note
from lesart.core.quantity import counted, plain_number
from lesart.core.step import Step

Rectangle = tuple[int, int, int, int]
"""Left, top, and one past the right and lower edge."""


def inspect_face(face: Face, panel: Panel) -> list[Note]:
    """Notes on items that leave the panel, overlap, have letters the panel does not have, blink badly or leave
    tails."""
    notes: list[Note] = []
    taken: list[tuple[str, Rectangle]] = []
    counted = panel.counted_from
    for index, item in enumerate(face.items):
        name, channel = item.named(), item.reads[0] if item.reads else None
        width, height = size_of(item, panel)
        end, foot = item.column + width, item.row + height
        room = panel.line if panel.shift else panel.columns
        if foot > panel.rows or end > room:
            notes.append(
                Note(
                    FAULT,
                    Step.GLASS,
                    channel,
                    f"{face.panel}: the {name} ends at row {foot - 1 + counted}, column {end - 1 + counted}; the "
                    f"panel ends at row {panel.rows - 1 + counted}, column {room - 1 + counted}.",
                    figure=float(end - 1),
                    limit=float(room - 1),
                    remedy="move it or make it narrower",
                    panel=face.panel,
                    place=("faces", face.name, "items", index, "column"),
                )
            )
        notes += _unit_of_label(face, index)
        own = (item.column, item.row, end, foot)
        for other in sorted({each for each, box in taken if _overlap(own, box)}):
            notes.append(
                Note(
                    FAULT,
                    Step.GLASS,
                    channel,
                    f"{face.panel}: the {name} covers the {other}.",
                    remedy="move one",
                    panel=face.panel,
                    place=("faces", face.name, "items", index, "column"),
                )
            )
        # A box may frame items; a line or a filled box would hide them.
        if not isinstance(item, Box) or item.filled:
            taken.append((name, own))
        notes += inspect_letters(face, panel, item, index)
        notes += inspect_motion(face, panel, item, index, channel)
    whole = (_slots, _tails, _clears, _off_centre)
    return [*notes, *(note for look in whole for note in look(face, panel)), *_of_kind(panel, face)]


def _unit_of_label(face: Face, index: int) -> list[Note]:
    """A note on a label that is a unit: it must be that of a number on the face."""
    item = face.items[index]
    if not isinstance(item, Label):
        return []
    fields = [(each.channel, each.field) for each in face.items if isinstance(each, FieldItem)]
    wrong = wrong_unit_of_label(item.text, fields)
    if wrong is None:
        return []
    channel, field = wrong
    place = ("faces", face.name, "items", index, "text")
    return [
        Note(
            FAULT,
            Step.GLASS,
            channel,
            f'{face.panel}: the label says "{item.text.strip()}", and {channel} is shown in {field.unit_shown}.',
            remedy=f'write "{field.unit_shown}" there',
            # A longer one may cover what comes after it.
            mend=(Mend(place, str(field.unit_shown)),) if len(str(field.unit_shown)) <= len(item.text) else (),
            panel=face.panel,
            place=place,
        )
    ]


def clashing_pixels(face: Face, panel: Panel) -> tuple[Rectangle, ...]:
    """Pixels that two items claim, and the edge that an item runs over."""
    boxes = [
        (item.column, item.row, item.column + size[0], item.row + size[1])
        for item in face.items
        for size in (size_of(item, panel),)
        if not isinstance(item, Box) or item.filled
    ]
    found = []
    for place, one in enumerate(boxes):
        for other in boxes[place + 1 :]:
            if _overlap(one, other):
                found.append(
                    (max(one[0], other[0]), max(one[1], other[1]), min(one[2], other[2]), min(one[3], other[3]))
                )
        left, top, right, foot = one
        if right > panel.columns:
            found.append((panel.columns - 1, top, panel.columns, foot))
        if foot > panel.rows:
            found.append((left, panel.rows - 1, right, panel.rows))
    return tuple(found)


def clashing(face: Face, panel: Panel) -> tuple[tuple[int, int], ...]:
    """Cells that two items claim, and the last cell of a row that an item runs over; on the panel, in order."""
    seen: set[tuple[int, int]] = set()
    found: set[tuple[int, int]] = set()
    for item in face.items:
        places = {(item.row, column) for column in range(item.column, item.column + width_of(item, panel))}
        found |= places & seen
        seen |= places
        if item.row < panel.rows and item.column + width_of(item, panel) > panel.columns and not panel.shift:
            found.add((item.row, panel.columns - 1))
    return tuple(sorted(place for place in found if place[0] < panel.rows and place[1] < panel.columns))


def _overlap(one: Rectangle, other: Rectangle) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _slots(face: Face, panel: Panel) -> list[Note]:
    used, room = panel.slots or (0, 0)
    if used <= room:
        return []
    return [
        Note(
            FAULT,
            Step.GLASS,
            None,
            f"{face.panel}: {used} custom glyphs are used, the panel has room for {room}.",
            figure=float(used),
            limit=float(room),
            remedy="draw fewer, or do without a bar",
            panel=face.panel,
        )
    ]


def _tails(face: Face, panel: Panel) -> list[Note]:
    """A note on unpadded fields: a shorter text leaves the end of the previous one."""
    if face.writes != BARE:
        return []
    return [
        Note(
            FAULT,
            Step.GLASS,
            item.channel,
            f"{face.panel}: the {item.named()} is written as it comes; after a text of "
            f"{counted(item.field.width, 'cell')} a shorter one leaves the end of the old one on the glass.",
            figure=float(item.field.width),
            unit="cells",
            remedy="write the whole field, padded with blanks",
            mend=(Mend(("faces", face.name, "writes"), PADDED),),
            panel=face.panel,
        )
        for item in face.items
        if isinstance(item, FieldItem) and item.field.width > 1 and item.field.pad == "blank"
    ]


def _clears(face: Face, panel: Panel) -> list[Note]:
    """A note on a face that is cleared before each drawing: it is dark for part of the time."""
    if face.writes != CLEARED or not panel.clear_ms:
        return []
    share = min(drawing_of(face, panel).seconds * face.redraw_hz, 1.0)
    return [
        Note(
            DOUBT,
            Step.GLASS,
            None,
            f"{face.panel}: cleared {plain_number(face.redraw_hz, 2)} times a second it is empty or half written "
            f"{plain_number(100 * share, 2)} % of the time, and blinks.",
            figure=100 * share,
            unit="%",
            limit=0.0,
            remedy="write over what is there, padded",
            mend=(Mend(("faces", face.name, "writes"), PADDED),),
            panel=face.panel,
        )
    ]


def _off_centre(face: Face, panel: Panel) -> list[Note]:
    """A note on a label half a cell off the middle, which no column can mend."""
    notes = []
    for index, item in enumerate(face.items):
        alone = sum(other.row == item.row for other in face.items) == 1
        if not isinstance(item, Label) or not alone or not item.motion.is_still:
            continue
        width = width_of(item, panel)
        left, right = item.column, panel.columns - item.column - width
        if left and abs(left - right) == 1:
            notes.append(
                Note(
                    REMARK,
                    Step.GLASS,
                    None,
                    f"{face.panel}: the {item.named()} has {counted(left, 'cell')} at its left and {right} at "
                    "its right; an odd number cannot be split evenly.",
                    figure=float(left),
                    limit=float(right),
                    remedy="a text one letter longer or shorter can be centred",
                    panel=face.panel,
                    place=("faces", face.name, "items", index, "column"),
                )
            )
    return notes


@singledispatch
def _of_kind(panel: Panel, face: Face) -> list[Note]:
    """Notes on what only one kind of panel can get wrong."""
    return []


@_of_kind.register
def _(panel: SegmentPanel, face: Face) -> list[Note]:
    return [*_colons(face, panel), *_unlatched(face, panel)]


@_of_kind.register
def _(panel: PixelPanel, face: Face) -> list[Note]:
    """Notes on letters that lie half in the stripe of another light. A frame or a line may cross it."""
    edge = panel.stripe
    if not 0 < edge < panel.rows or panel.turns:
        return []
    notes = []
    for index, item in enumerate(face.items):
        height = size_of(item, panel)[1]
        if isinstance(item, Shape) or not item.row < edge < item.row + height:
            continue
        place = ("faces", face.name, "items", index, "row")
        to = _row_beside(edge, face, index, panel)
        where = "up into" if to is not None and to < edge else "below"
        notes.append(
            Note(
                DOUBT,
                Step.GLASS,
                item.reads[0] if item.reads else None,
                f"{face.panel}: the {item.named()} lies across the edge of the stripe, rows {item.row} to "
                f"{item.row + height - 1}; the stripe ends at row {edge - 1}, so it is lit in two colours.",
                figure=float(item.row + height - 1),
                limit=float(edge - 1),
                remedy="move it, or take a smaller font" if to is None else f"move it {where} the stripe, to row {to}",
                mend=() if to is None else (Mend(place, to),),
                panel=face.panel,
                place=place,
            )
        )
    return notes


def _row_beside(edge: int, face: Face, index: int, panel: Panel) -> int | None:
    """The nearest row at which an item lies on one side of an edge and covers no other; None where there is none."""
    item = face.items[index]
    width, height = size_of(item, panel)
    for row in sorted((edge - height, edge), key=lambda row: abs(row - item.row)):
        own = (item.column, row, item.column + width, row + height)
        others = (each for each in face.items if each is not item and not isinstance(each, Box))
        sizes = ((each, size_of(each, panel)) for each in others)
        boxes = [(each.column, each.row, each.column + wide, each.row + high) for each, (wide, high) in sizes]
        if 0 <= row <= panel.rows - height and not any(_overlap(own, box) for box in boxes):
            return row
    return None


@_of_kind.register
def _(panel: ColourPanel, face: Face) -> list[Note]:
    """Notes on colours that are hardly seen, and on what is beside a round glass."""
    return [*_hardly_seen(face, panel), *inspect_round(face, panel)]


def _hardly_seen(face: Face, panel: ColourPanel) -> list[Note]:
    """Notes on item colours that are hardly seen on the panel's ground; its own colour is checked with the panel."""
    notes, least = [], least_contrast(panel)
    for index, item in enumerate(face.items):
        hues = (("colour", item.hue.colour, ""), ("alarm_colour", item.hue.alarm, " in an alarm"))
        for key, colour, when in hues:
            found = contrast_on(panel, colour) if colour in COLOURS else least
            if found >= least:
                continue
            place = ("faces", face.name, "items", index, key)
            notes.append(
                Note(
                    DOUBT,
                    Step.GLASS,
                    item.reads[0] if item.reads else None,
                    f"{face.panel}: the {item.named()}{when}: {said_contrast(colour, panel.ground, found)}",
                    figure=found,
                    limit=least,
                    remedy=f"choose another colour; {readable_on(panel.ground)} has the most",
                    mend=(Mend(place, readable_on(panel.ground)),),
                    panel=face.panel,
                    place=place,
                )
            )
    return notes


@_of_kind.register
def _(panel: InkPanel, face: Face) -> list[Note]:
    """Notes on colours that are hardly seen, and on those that no ink is."""
    return [*_hardly_seen(face, panel), *inspect_inks(face, panel)]


def _colons(face: Face, panel: SegmentPanel) -> list[Note]:
    """Notes on colons after digits that have none."""
    if not panel.colons:
        return []
    notes = []
    for item in face.items:
        if not isinstance(item, FieldItem) or item.field.shows not in ("elapsed", "clock"):
            continue
        last = item.column + item.field.width
        wanted = last - 2 if item.field.align == "right" else None
        if wanted is not None and wanted not in panel.colons:
            notes.append(
                Note(
                    FAULT,
                    Step.GLASS,
                    item.channel,
                    f"{face.panel}: the {item.named()} puts its colon after digit {wanted}; the panel has one after "
                    f"{', '.join(map(str, panel.colons))}.",
                    figure=float(wanted),
                    remedy="move the field",
                    panel=face.panel,
                )
            )
    return notes


def _unlatched(face: Face, panel: SegmentPanel) -> list[Note]:
    """A note on registers without a latch: they show each bit on its way."""
    if panel.drive not in (REGISTERS, THROUGH) or panel.latch:
        return []
    shifted = panel.slot(0, 0) if panel.is_shifted else panel.sent(panel.lit(panel.blank()))
    bits = 8 * len(shifted)
    return [
        Note(
            DOUBT,
            Step.GLASS,
            None,
            f"{face.panel}: without a latch all {bits} bits run through the digits each time they are sent.",
            figure=float(bits),
            remedy="use registers with a latch, or send only what changed",
            mend=(Mend(("panels", panel.name, "latch"), True),),
            panel=face.panel,
        )
    ]
