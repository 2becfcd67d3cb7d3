"""The tables of a face: labels and fields placed on a panel."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.errors import Problem
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.field import Field
from lesart.core.glass.face import FIELD_PLACE, LABEL, Face, FieldItem, Item, Label
from lesart.core.glass.panel import Panel
from lesart.core.parameters import Parameter, read_table, shown
from lesart.project.channels import check_field
from lesart.project.model import Channel, Table

FACE = (Parameter("panel", "panel", "text", "name of the panel it is for", longest=60),)
KINDS = ("label", "field")


def check_face(
    name: str, table: Table, panels: Mapping[str, Panel], channels: Mapping[str, Channel], tables: Table
) -> tuple[Face | None, list[Problem]]:
    """The face, or every problem of its tables. ``tables`` is the whole file, for what an item takes over."""
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
    for index, entry in enumerate(entries):
        item = _item(entry, f"{place}.items[{index}]", index, channels, tables, problems)
        if item is not None:
            items.append(item)
    return (None, problems) if problems else (Face(name, values["panel"], tuple(items)), [])


def _item(
    entry: Table, place: str, index: int, channels: Mapping[str, Channel], tables: Table, problems: list[Problem]
) -> Item | None:
    kind = entry.get("kind")
    if kind == "label":
        values, found = read_table(LABEL, entry, place, also=("kind",))
        problems += found
        return None if found else Label(values["text"], values["row"], values["column"])
    if kind != "field":
        written = shown(kind) if kind is not None else ""
        problems.append(Problem(f"{place}.kind", written, f"it must be one of {', '.join(KINDS)}"))
        return None
    own = {parameter.name for parameter in FIELD} & set(entry)
    values, found = read_table(FIELD_PLACE, entry, place, also=("kind", *(parameter.name for parameter in FIELD)))
    problems += found
    if found:
        return None
    name = values["channel"]
    if name not in tables.get("channels", {}):
        known = ", ".join(tables.get("channels", {})) or "none"
        problems.append(Problem(f"{place}.channel", shown(name), f"the project's channels are {known}"))
        return None
    if name not in channels:
        return None  # Its own problems are reported where they are.
    table = tables["channels"][name]
    ways = {"": table, **{each.variant: table["variants"][each.variant] for each in channels[name].variants}}
    fields: dict[str, Field] = {}
    for variant, way in ways.items():
        # An item takes the channel's rules and overrides those it states itself.
        rules = {**way.get("fit", {}), **{key: entry[key] for key in own}}
        field = check_field(rules, place, channels[name].unit, problems)
        if field is None:
            return None
        fields[variant] = field
    return FieldItem(name, values["row"], values["column"], fields.pop(""), frozenset(own), index, fields)
