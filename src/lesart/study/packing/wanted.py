"""Requirements of each channel: identifiers, raw numbers, fields with their panels' codes."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping

from lesart.core.block import Mark
from lesart.core.fit.cells import Cell
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import FieldItem
from lesart.core.glass.panels.panel import Panel
from lesart.core.pack.channel_form import ChannelWanted
from lesart.core.pack.field_forms.wanted import CodeOf, FieldWanted
from lesart.core.pack.law_forms.pair_surface import Beside
from lesart.core.pack.settings import PackSettings
from lesart.core.quantity import beside_unit, counted, format_quantity, listed
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.intervals import raw_interval_s
from lesart.study.packing.raw_numbers import raw_numbers
from lesart.study.written_pack import definition_of

UNICODE_FIELD = "its own field, on no panel"


def code_names(names: Iterable[str], *, before: str = "", taken: Iterable[str] = ()) -> dict[str, str]:
    """Identifiers for C and Python by people's names: lower case, digits and ``_``, distinct and none of those
    ``taken``. ``before`` is a prefix."""
    found: dict[str, str] = {}
    others = set(taken)
    for name in names:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
        word = re.sub(r"[^a-z0-9]+", "_", plain).strip("_") or "channel"
        word = before + (f"n{word}" if word[0].isdigit() else word)
        known = {*found.values(), *others}
        count = 2
        own = word
        while own in known:
            own, count = f"{word}_{count}", count + 1
        found[name] = own
    return found


def channel_wanted(
    project: Project,
    bench: Bench,
    channel: Channel,
    name: str,
    settings: PackSettings,
    beside: Beside | None = None,
) -> ChannelWanted:
    """All requirements of a channel; nothing is decided here that the core can decide."""
    raw = raw_numbers(project, bench, channel)
    return ChannelWanted(
        name=name,
        title=channel.name,
        chain=channel.chain,
        raw=raw.scale,
        low=raw.low,
        high=raw.high,
        lowest=channel.lowest,
        highest=channel.highest,
        alarms=channel.alarms,
        fields=_fields(project, channel, name),
        interval_s=raw_interval_s(project, bench, channel),
        share=settings.share,
        machine=settings.machine,
        beside=beside,
        definition=definition_of(project, channel.name, settings),
        filter_words=tuple(each.says for each in channel.filters),
        described=(
            *_no_reading_said(channel),
            *_laws_said(channel),
            *_correction_said(channel),
            *_filters_said(channel),
        ),
    )


def _told(written: Mapping[str, object]) -> str:
    return ", ".join(f"{name} {value}" for name, value in written.items() if name != "kind")


def _no_reading_said(channel: Channel) -> tuple[str, ...]:
    """Raw values that mean no reading, which the firmware has to recognise itself."""
    if not channel.no_reading:
        return ()
    values = [format_quantity(value, channel.unit_raw, 9) for value in channel.no_reading]
    stand, them = ("stands", "it") if len(values) == 1 else ("stand", "them")
    return (f"Raw, {listed(values)} {stand} for no reading: hand {them} in with mark {int(Mark.MISSING)}.",)


def _laws_said(channel: Channel) -> tuple[str, ...]:
    return tuple(
        f"Law {place}, {each.kind.title}: {each.kind.formula}; {_told(each.written) or 'nothing to set'}. "
        f"Source: {each.kind.source}."
        for place, each in enumerate(channel.laws, 1)
    )


def _correction_said(channel: Channel) -> tuple[str, ...]:
    """The correction in words: a line by its numbers; a curve by its points."""
    fit = channel.correction
    if fit.kind == "none":
        return ()
    tare = f", less {beside_unit(f'{fit.tare:.9g}', channel.unit.symbol)} of tare" if fit.tare else ""
    if fit.curve is None:
        offset = beside_unit(f"{fit.offset:+.12g}", channel.unit.symbol)
        return (f"True, {fit.kind}: {fit.gain:.12g} · reading {offset}{tare}.",)
    return (f"True, {fit.kind} through {counted(fit.points, 'reference')}{tare}.",)


def _filters_said(channel: Channel) -> tuple[str, ...]:
    return tuple(
        f"Calm {place}, {each.kind.title}; {_told(each.written) or 'as usual'}: {each.kind.computes}"
        for place, each in enumerate(channel.filters, 1)
    )


def _fields(project: Project, channel: Channel, name: str) -> tuple[FieldWanted, ...]:
    """Its fields on panels; its own field where it is on none."""
    shorts = short_names(project, channel.name)
    found = [
        field_wanted(panel, name, shorts[panel_name, face.name, item.index], face, item)
        for panel_name, panel in project.panels.items()
        for face, item in project.fields_on(panel_name, channel.name)
    ]
    if not found:
        place = f"{channel.name}, {UNICODE_FIELD}"
        found.append(FieldWanted(name, "field1", place, channel.field, lambda cell: ord(cell.letter[0])))
    return tuple(found)


def short_names(project: Project, channel: str) -> dict[tuple[str, str, int], str]:
    """Variable prefixes of each of its fields, by panel, face and item index."""
    places = [
        (panel, face.name, item.index) for panel in project.panels for face, item in project.fields_on(panel, channel)
    ]
    return {
        place: f"field{count}_{next(iter(code_names([place[0]]).values()))}" for count, place in enumerate(places, 1)
    }


def field_wanted(panel: Panel, channel: str, short: str, face: Face, item: FieldItem) -> FieldWanted:
    """A field, with the identifiers of its channel and of itself."""
    where = f"{item.channel}, field on {panel.name}, face {face.name}"
    return FieldWanted(channel, short, where, item.field, _codes_of(panel), panel.joined)


def _codes_of(panel: Panel) -> CodeOf:
    def code(cell: Cell) -> int | None:
        own = panel.code(cell)
        if own is None and panel.grid is not None and cell.letter:
            # A person's own font may have letters that none of Lesart's has.
            return ord(cell.letter[0])
        return None if own is None else panel.sent_code(own)

    return code
