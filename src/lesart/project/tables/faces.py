"""The tables of a face: labels, fields, bars and alarm marks placed on a panel."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any

from lesart.core.errors import Problem
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import Field
from lesart.core.glass.faces.bars import with_bar_glyphs
from lesart.core.glass.faces.face import FACE, Face
from lesart.core.glass.faces.hue import PLAIN, Hue
from lesart.core.glass.faces.items import (
    ITEMS,
    ONLY_PIXELS,
    AlarmMark,
    Bar,
    FieldItem,
    Item,
    Label,
    TextItem,
    item_parameters,
)
from lesart.core.glass.faces.motion import STANDS, TURN, Motion, build_motion
from lesart.core.glass.panels.panel import Panel
from lesart.core.parameters import read_table, shown
from lesart.core.quantity import plain_number
from lesart.project.assets.shown_picture import ShownPicture
from lesart.project.model import Channel, Table
from lesart.project.tables.channels import check_field
from lesart.project.tables.list_tables import in_unit
from lesart.project.tables.shapes import Known, build_shape, channel_is_known


def check_face(
    name: str,
    table: Table,
    panels: Mapping[str, Panel],
    channels: Mapping[str, Channel],
    pictures: Mapping[str, ShownPicture],
    tables: Table,
) -> tuple[Face | None, list[Problem]]:
    """The face, or every problem of its tables. ``tables`` is the whole file, for the rules that an item takes over."""
    place = f"faces.{name}"
    values, problems = read_table(FACE, table, place, also=("items",))
    if "panel" in values and values["panel"] not in tables.get("panels", {}):
        known = ", ".join(panels) or "none"
        problems.append(Problem(f"{place}.panel", shown(values["panel"]), f"the project's panels are {known}"))
    items: list[Item] = []
    entries = table.get("items", [])
    if not isinstance(entries, list) or not all(isinstance(entry, Mapping) for entry in entries):
        problems.append(Problem(f"{place}.items", shown(entries), f"it must be a list of tables, [[{place}.items]]"))
        entries = []
    panel = panels.get(values.get("panel", ""))
    counted_from = panel.counted_from if panel is not None else 0
    for index, entry in enumerate(entries):
        here = f"{place}.items[{index}]"
        item = _item(entry, here, index, channels, pictures, tables, problems)
        if item is not None:
            hue = Hue(entry.get("colour", PLAIN.colour), entry.get("alarm_colour", PLAIN.alarm))
            item = item if hue == PLAIN else replace(item, hue=hue)
            items.append(_counted(item, counted_from, here, problems))
    if problems:
        return None, problems
    return Face(
        name=name,
        panel=values["panel"],
        items=tuple(items),
        lasts_s=values["lasts"],
        writes=values["writes"],
        redraw_hz=values["redraw"],
        seen_from_m=values["seen_from"],
    ), []


def with_bars(panels: Mapping[str, Panel], faces: Mapping[str, Face]) -> dict[str, Panel]:
    """The panels, with bar glyphs for those with a bar on one of their faces."""
    barred = {face.panel for face in faces.values() if any(isinstance(item, Bar) for item in face.items)}
    return {name: with_bar_glyphs(panel) if name in barred else panel for name, panel in panels.items()}


def _counted(item: Item, counted_from: int, place: str, problems: list[Problem]) -> Item:
    """The item at its place counted from 0; it is written in the panel's usual counting."""
    if not counted_from:
        return item
    for name, at in (("row", item.row), ("column", item.column)):
        if at < counted_from:
            problems.append(Problem(f"{place}.{name}", str(at), f"this panel is counted from {counted_from}"))
    return replace(item, row=item.row - counted_from, column=item.column - counted_from)


def _item(
    entry: Table,
    place: str,
    index: int,
    channels: Mapping[str, Channel],
    pictures: Mapping[str, ShownPicture],
    tables: Table,
    problems: list[Problem],
) -> Item | None:
    kind = entry.get("kind")
    if not isinstance(kind, str) or kind not in ITEMS:
        written = shown(kind) if kind is not None else ""
        problems.append(Problem(f"{place}.kind", written, f"it must be one of {', '.join(ITEMS)}"))
        return None
    also = ("kind", *(parameter.name for parameter in FIELD)) if kind == "field" else ("kind",)
    values, found = read_table(item_parameters(kind, tables.get("fonts", {})), entry, place, also=also)
    problems += found
    if found:
        return None
    rank: dict[str, Any] = {name: values[name] for name in ("importance", "pinned")}
    if kind == "label":
        return Label(values["text"], values["row"], values["column"], build_motion(values), values["font"], **rank)
    if kind == "text":
        return _text(values, place, rank, problems)
    if kind in ONLY_PIXELS:
        return build_shape(kind, values, place, Known(channels, pictures, tables), problems)
    name = values["channel"]
    if not channel_is_known(name, f"{place}.channel", tables, problems) or name not in channels:
        return None  # Its own problems are reported where they are.
    if kind == "alarm":
        return AlarmMark(
            name, values["row"], values["column"], values["text"], build_motion(values), values["font"], **rank
        )
    if kind == "bar":
        return _bar(values, channels[name], place, problems)
    return _field(entry, values, place, index, channels[name], tables, problems)


def _text(values: dict[str, Any], place: str, rank: dict[str, Any], problems: list[Problem]) -> TextItem | None:
    """A variable text; a stated beginning of captures has to be valid."""
    begins = values["begins"].strip()
    if begins and not is_moment(begins):
        problems.append(
            Problem(f"{place}.begins", shown(begins), 'it must be a date and a time of day, like "2026-05-14 06:00:00"')
        )
        return None
    motion = Motion(step_s=values["step_time"], pause_s=values["pause_time"], blink_hz=values["blink"])
    return TextItem(
        values["text"],
        values["row"],
        values["column"],
        motion,
        values["font"],
        source=values["shows"],
        width=values["width"],
        begins=begins,
        **rank,
    )


def is_moment(written: str) -> bool:
    """True for a date and time in ISO 8601."""
    try:
        datetime.fromisoformat(written)
    except ValueError:
        return False
    return True


def _field(
    entry: Table,
    values: dict[str, Any],
    place: str,
    index: int,
    channel: Channel,
    tables: Table,
    problems: list[Problem],
) -> FieldItem | None:
    own = {parameter.name for parameter in FIELD} & set(entry)
    table = tables["channels"][channel.name]
    ways = {"": table, **{each.variant: table["variants"][each.variant] for each in channel.variants}}
    fields: dict[str, Field] = {}
    for variant, way in ways.items():
        # An item takes the channel's rules and overrides those it sets itself.
        rules = {**way.get("fit", {}), **{key: entry[key] for key in own}}
        field = check_field(rules, place, channel.unit, problems)
        if field is None:
            return None
        fields[variant] = field
    motion = build_motion(values)
    if motion.moves not in (STANDS, TURN) and not motion.window:
        motion = replace(motion, window=fields[""].width)
    return FieldItem(
        channel=channel.name,
        row=values["row"],
        column=values["column"],
        field=fields.pop(""),
        own_keys=frozenset(own),
        index=index,
        of_variants=fields,
        motion=motion,
        font=values["font"],
        importance=values["importance"],
        pinned=values["pinned"],
    )


def _bar(values: dict[str, Any], channel: Channel, place: str, problems: list[Problem]) -> Bar | None:
    ends = {"lowest": channel.lowest, "highest": channel.highest}
    for name in ends:
        if values[name] is not None:
            ends[name] = in_unit(values[name], channel.unit, f"{place}.{name}", problems)
    if not ends["lowest"] < ends["highest"]:
        problems.append(
            Problem(f"{place}.highest", f"{plain_number(ends['highest'])}", "a bar is full above where it is empty")
        )
        return None
    # A bar is replaced by one repeated letter; texts of the channel's field may be too long for it.
    field = replace(
        channel.field, width=values["width"], overflow="-", underflow="", invalid="=", stale="_", settling=""
    )
    return Bar(
        channel=channel.name,
        row=values["row"],
        column=values["column"],
        width=values["width"],
        empty=ends["lowest"],
        full=ends["highest"],
        field=field,
        tall=values["tall"],
        importance=values["importance"],
        pinned=values["pinned"],
    )
