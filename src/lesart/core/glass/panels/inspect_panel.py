"""What can be wrong with how a panel is set up, mounted or left without power."""

from __future__ import annotations

from functools import singledispatch

from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.colour_set_up import ColourSetUp
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import DRIVER, ROOM_OF_DRIVER, SegmentPanel
from lesart.core.glass.panels.slow_change import USUAL_QUICK_ONES
from lesart.core.notes import DOUBT, FAULT, REMARK, Mend, Note
from lesart.core.quantity import counted
from lesart.core.step import Step


@singledispatch
def inspect_panel(panel: Panel) -> list[Note]:
    """Notes on a panel's set-up. None for panels without settings whose picture goes with the power."""
    return []


@inspect_panel.register
def _(panel: ColourPanel) -> list[Note]:
    """Notes on a colour panel set to another first column or row, another direction, or other colours."""
    clauses, place = panel.told.lies(), ("panels", panel.name)
    if not clauses:
        return []
    mends = [
        Mend((*place, name), right) for name, right in vars(ColourSetUp()).items() if getattr(panel.told, name) != right
    ]
    off = panel.told.columns_off or panel.told.rows_off
    return [
        Note(
            FAULT,
            Step.GLASS,
            None,
            f"{panel.name}: its picture {' and '.join(clauses)}, because its start sequence says so.",
            figure=float(abs(off)) if off else None,
            limit=0.0 if off else None,
            remedy="set its own first column and row, directions and colours in its start sequence",
            mend=tuple(mends),
            panel=panel.name,
            place=mends[0].key,
        )
    ]


@inspect_panel.register
def _(panel: SegmentPanel) -> list[Note]:
    """A note on a driver that holds fewer bytes than its digits take."""
    wide = panel.wiring.bytes_a_digit
    if panel.drive != DRIVER or panel.sent_size <= ROOM_OF_DRIVER:
        return []
    most = ROOM_OF_DRIVER // wide
    return [
        Note(
            DOUBT,
            Step.GLASS,
            None,
            f"{panel.name}: {panel.digits} digits of {wide} bytes take {panel.sent_size}; "
            f"a driver over two lines holds {ROOM_OF_DRIVER}.",
            figure=float(panel.sent_size),
            limit=float(ROOM_OF_DRIVER),
            remedy=f"drive it through shift registers, or give it {most} digits",
            panel=panel.name,
            place=("panels", panel.name, "drive"),
        )
    ]


@inspect_panel.register
def _(panel: PixelPanel) -> list[Note]:
    return [*_set_up(panel), *_lies(panel), *_from_behind(panel), *_kept(panel), *_traces(panel)]


def _set_up(panel: PixelPanel) -> list[Note]:
    """A note on a panel set to another number or order of rows than it has."""
    set_up, place = panel.set_up, ("panels", panel.name)
    if set_up.order == set_up.wired and set_up.told in (0, panel.height):
        return []
    told = set_up.told not in (0, panel.height)
    mends = [Mend((*place, "rows_told"), 0)] if told else []
    if set_up.order != set_up.wired:
        mends.append(Mend((*place, "order_told"), "as they lie"))
    what = (
        f"sets {counted(set_up.told, 'row')}, but it has {panel.height}"
        if told
        else f"says that its rows lie {set_up.order}"
    )
    return [
        Note(
            FAULT,
            Step.GLASS,
            None,
            f"{panel.name}: its start sequence {what}: {set_up.says(panel.height)}.",
            figure=float(set_up.told or panel.height),
            limit=float(panel.height),
            remedy="set its own number of rows and their order in its start sequence",
            mend=tuple(mends),
            panel=panel.name,
            place=(*place, "rows_told" if told else "order_told"),
        )
    ]


def _lies(panel: PixelPanel) -> list[Note]:
    """A note on a panel set to another first column, or another direction."""
    clauses, place = panel.set_up.lies(), ("panels", panel.name)
    if not clauses:
        return []
    wrong = {"columns_off": 0, "bottom_up": False, "right_left": False}
    mends = [Mend((*place, name), right) for name, right in wrong.items() if getattr(panel.set_up, name) != right]
    return [
        Note(
            FAULT,
            Step.GLASS,
            None,
            f"{panel.name}: its picture lies {' and '.join(clauses)}, because its start sequence says so.",
            figure=float(abs(panel.set_up.columns_off)) if panel.set_up.columns_off else None,
            limit=0.0 if panel.set_up.columns_off else None,
            remedy="set its own first column and directions in its start sequence",
            mend=tuple(mends),
            panel=panel.name,
            place=mends[0].key,
        )
    ]


def _from_behind(panel: PixelPanel) -> list[Note]:
    """A note on a see-through panel, which is often seen from its other side."""
    if not panel.see_through or panel.mirror:
        return []
    says = f"{panel.name} is see-through and not mirrored: from behind it reads the wrong way round."
    return [_remark(panel, says, "say that it is mirrored if it is looked at from behind; B shows that side", "mirror")]


def _kept(panel: PixelPanel) -> list[Note]:
    """A note on a picture that stays without power: old content cannot be told from new."""
    if not panel.keeps:
        return []
    says = f"{panel.name} keeps its picture without power: the last reading still shows as if it were new."
    return [_remark(panel, says, "show when it was read, or clear the panel before power goes", "keeps")]


def _traces(panel: PixelPanel) -> list[Note]:
    """A note on a panel that is only ever changed quickly: what was there before stays visible as a shadow."""
    if not panel.change.leaves_traces:
        return []
    place = ("panels", panel.name, "quick_ones")
    return [
        Note(
            DOUBT,
            Step.GLASS,
            None,
            f"{panel.name}: quick changes leave a shadow of earlier pictures, and no whole change ever clears it.",
            remedy=f"make a whole change after every {USUAL_QUICK_ONES} quick ones",
            mend=(Mend(place, USUAL_QUICK_ONES),),
            panel=panel.name,
            place=place,
        )
    ]


def _remark(panel: PixelPanel, says: str, remedy: str, key: str) -> Note:
    return Note(REMARK, Step.GLASS, None, says, remedy=remedy, panel=panel.name, place=("panels", panel.name, key))
