"""Offers for a value edited in place: choices, names, pins, units, files and ports."""

from __future__ import annotations

from pathlib import Path

from lesart.core.errors import RequestError
from lesart.core.notes import Key
from lesart.core.units import SHOWN_IN, Unit, parse_unit
from lesart.desk.entries.edits import parameter_at
from lesart.desk.entries.offered_files import CAPTURES, files_in, ports_in
from lesart.desk.entries.wire_values import options_at
from lesart.project.model import Project
from lesart.project.toml_values import value_at
from lesart.study.views import Offer

FILES = {"fonts": (".bdf",), "pictures": (".png", ".bmp", ".gif", ".jpg", ".jpeg", ".xbm")}
"""Extensions of files by the group of tables that name them."""


def offers_of_value(project: Project, folder: Path, key: Key) -> tuple[Offer, ...]:
    """Offers for a value; none for a number or a text."""
    try:
        parameter = parameter_at(project, key)
    except RequestError:
        return ()
    if parameter.kind == "choice":
        return tuple(Offer(choice) for choice in parameter.choices if choice)
    if parameter.kind == "flag":
        return Offer("yes"), Offer("no")
    if options := options_at(project, key, parameter):
        return tuple(Offer(option) for option in options if option)
    if parameter.kind == "unit":
        return _units(project, key)
    if parameter.channel:
        return tuple(Offer(name, "what that channel reads") for name in project.channels)
    if parameter.name == "port":
        return tuple(Offer(port, says) for port, says in ports_in(folder))
    if parameter.name in ("file", "capture"):
        endings = FILES.get(str(key[0]), CAPTURES if "trace" not in key else (".vcd",))
        return tuple(Offer(name) for name in files_in(folder, endings))
    names = project.tables.get(parameter.names, {}) if parameter.names else {}
    return tuple(Offer(str(name)) for name in names)


def _units(project: Project, key: Key) -> tuple[Offer, ...]:
    """Units for the same quantity, where that is known."""
    name = key[1] if key[0] == "channels" else value_at(project.tables, (*key[:-1], "channel"))
    channel = project.channels.get(str(name))
    if channel is None or key[-1] != "unit":
        return ()
    return tuple(Offer(symbol) for symbol in (str(channel.unit), *other_units(channel.unit)))


def other_units(unit: Unit) -> tuple[str, ...]:
    """Other units in which people state the same quantity."""
    group = next((group for group in SHOWN_IN if parse_unit(group[0]).same_dimension(unit)), ())
    return tuple(symbol for symbol in group if parse_unit(symbol) != unit)
