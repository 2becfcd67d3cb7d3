"""From the tables of ``lesart.toml`` to a checked project, or to every problem in it at once."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from typing import Any

from lesart import FORMAT_VERSION
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import Problem, ProjectError
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.faces.face import Face
from lesart.core.glass.panels.panel import Panel
from lesart.core.glyphs.charsets import CharacterSet
from lesart.core.glyphs.fonts import Font
from lesart.core.notes import Key
from lesart.core.parameters import OWN_KEY, Parameter, read_table, shown
from lesart.core.raw.source import Source
from lesart.core.wire.check import Check
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.sums import Sum
from lesart.project import toml_pieces
from lesart.project.assets.named import Assets
from lesart.project.assets.shown_picture import ShownPicture
from lesart.project.assumed import parted
from lesart.project.facts.home import with_homes
from lesart.project.facts.homes import homes_of, leans_on
from lesart.project.facts.lamps import lamp_tables, with_currents_of_lamps
from lesart.project.folder.store import FILE
from lesart.project.model import Channel, Home, Project, Table
from lesart.project.places import located
from lesart.project.tables.channels import check_channel, circles, neighbours_of
from lesart.project.tables.charsets import check_charset
from lesart.project.tables.faces import check_face, with_bars
from lesart.project.tables.known_parts import KnownParts
from lesart.project.tables.loop import check_loop
from lesart.project.tables.pack import check_pack
from lesart.project.tables.panels import check_panel
from lesart.project.tables.sources import check_source
from lesart.project.tables.sums import check_measured, check_sum
from lesart.project.tables.traces import check_controller, check_traces
from lesart.project.tables.variants import resolved
from lesart.project.tables.wiring import check_wiring

TOP = (
    Parameter("lesart", "format version", "integer", "of the project file", lowest=1, highest=FORMAT_VERSION),
    Parameter("name", "name", "text", "of the project", "project", longest=60),
    Parameter("about", "about", "text", "what is said when it is opened", "", longest=200),
)

OF_PROJECT = tuple(each.name for each in TOP)

GROUPS = (
    "sources",
    "channels",
    "panels",
    "faces",
    "kinds",
    "parts",
    "sums",
    "charsets",
    "fonts",
    "pictures",
    "controllers",
)
"""Groups of named tables."""
TABLES = (*GROUPS, "wire", "loop", "pack")
"""Other tables of a project; each is checked on its own."""


def read_tables(text: str) -> dict[str, Any]:
    """Plain tables of a TOML text, without ``assumed``. Raises ProjectError with the line where it is not TOML."""
    return parted(_loaded(text))[0]


def _loaded(text: str) -> dict[str, Any]:
    try:
        return toml_pieces.loads(text)
    except (RecursionError, ValueError) as error:
        if not isinstance(error, tomllib.TOMLDecodeError):
            raise ProjectError(FILE, (_unreadable(text, error),)) from error
        last = f"(at line {text.count(chr(10)) + 1}, the end)"
        reason = str(error).rstrip(".").replace("(at end of document)", last)
        raise ProjectError(FILE, (Problem("this is not TOML", "", reason),)) from error


def _unreadable(text: str, error: Exception) -> Problem:
    """The problem of absurd TOML: endless nesting, or a number of thousands of digits."""
    if isinstance(error, RecursionError):
        return Problem("this is too deeply nested", "", "a project has lists and tables in each other a few times")
    long = re.compile(r"[\d_]{4000,}").search(text)
    line = text.count("\n", 0, long.start()) + 1 if long else 1
    return Problem(f"line {line}", "", "a number there has thousands of digits; a few are enough")


def check_project(text: str, before: Project | None = None, assets: Assets | None = None) -> Project:
    """The project a text describes. Raises ProjectError with every problem found.

    ``before`` is the project of an earlier text: unchanged tables are taken from it and not checked again, because an
    edit changes one value and must be on the glass at once. ``assets`` reads fonts and pictures; without it those of
    the earlier text are used, if any.

    Top-level tables that Lesart does not know are the person's own and are kept; a wrong key inside one of Lesart's
    tables is a problem, because a misspelt key would silently do nothing.
    """
    return check_tables(_loaded(text), text, before, assets)


def check_tables(
    tables_written: dict[str, Any], text: str, before: Project | None = None, assets: Assets | None = None
) -> Project:
    """The same of tables that were read already; ``text`` is what problems are located in.

    Raises ProjectError with every problem found.
    """
    written, assumed, strange = parted(tables_written)
    values, problems = _top(written)
    problems += strange
    assets = assets or (before.assets if before is not None else Assets())
    tables = resolved(_with_groups(written, problems))
    problems += [*assets.stray(tables), *_unknown(tables)]
    sources = _sources(tables, problems, before)
    hookup = _hookup(tables, problems, before)
    homes = _homes(tables, hookup, before)
    stated = with_homes(tables, homes)
    sums, checks, measured = _sums(stated, hookup, problems, before)
    channels = _channels(tables, stated, hookup, problems, before)
    glass = _glass(tables, stated, channels, problems, before, assets)
    loop, found = check_loop(stated.get("loop", {}))
    problems += found
    pack, found = check_pack(stated.get("pack", {}))
    problems += found
    controllers: dict[str, Controller] = _each(tables, "controllers", problems, check_controller)
    traces = check_traces(tables, glass.panels, controllers, problems)
    if problems:
        raise ProjectError(FILE, tuple(located(problem, written, text) for problem in problems))
    return Project(
        name=values["name"],
        about=values["about"],
        sources=sources,
        channels=channels,
        panels=with_bars(glass.panels, glass.faces),
        faces=glass.faces,
        hookup=hookup,
        sums=sums,
        checks=checks,
        measured=measured,
        tables=tables,
        homes=homes,
        assumed=assumed,
        stated=stated,
        charsets=glass.charsets,
        fonts=glass.fonts,
        pictures=glass.pictures,
        unread=glass.unread,
        assets=assets,
        loop=loop if before is None else replace(loop, usual=before.loop.usual),
        controllers=controllers,
        traces=traces,
        pack=pack,
    )


def _top(written: Table) -> tuple[dict[str, Any], list[Problem]]:
    """Keys above all tables."""
    values, problems = read_table(TOP, {key: written[key] for key in OF_PROJECT if key in written}, "")
    return values, [Problem(each.place.lstrip("."), each.value, each.wanted) for each in problems]


def _unknown(tables: Table) -> list[Problem]:
    """Problems for unknown keys above all tables."""
    known = (*OF_PROJECT, *TABLES)
    return [
        Problem(key, shown(value), "this key is not known here; it may be lesart, name or about")
        for key, value in tables.items()
        if not isinstance(value, dict) and key not in known and not key.startswith(OWN_KEY)
    ]


def _sources(tables: Table, problems: list[Problem], before: Project | None) -> dict[str, Source]:
    same = _kept_sources(tables, before)
    return _each(
        tables,
        "sources",
        problems,
        lambda name, table: (same[name], []) if name in same else check_source(name, table),
    )


def _channels(
    tables: Table, stated: Table, hookup: Hookup, problems: list[Problem], before: Project | None
) -> dict[str, Channel]:
    # A source with a problem of its own is still a source: one mistake, one sentence.
    named = list(tables.get("sources", {}))
    parts = KnownParts(hookup.parts, list(tables.get("parts", {})))
    kept = _kept_channels(stated, hookup, before)
    neighbours = neighbours_of(tables.get("channels"))
    channels: dict[str, Channel] = _each(
        stated,
        "channels",
        problems,
        lambda name, table: (kept[name], []) if name in kept else check_channel(name, table, named, parts, neighbours),
    )
    problems += circles(channels)
    return channels


@dataclass(frozen=True)
class _Glass:
    """Panels and faces, with what is drawn on them; ``unread`` is why fonts and pictures cannot be read."""

    charsets: dict[str, CharacterSet]
    fonts: dict[str, Font]
    pictures: dict[str, ShownPicture]
    unread: dict[Key, str]
    panels: dict[str, Panel]
    faces: dict[str, Face]


def _glass(
    tables: Table,
    stated: Table,
    channels: dict[str, Channel],
    problems: list[Problem],
    before: Project | None,
    assets: Assets,
) -> _Glass:
    charsets: dict[str, CharacterSet] = _each(tables, "charsets", problems, check_charset)
    read: dict[str, Font | str] = _each(tables, "fonts", problems, assets.check_font)
    fonts = {name: font for name, font in read.items() if isinstance(font, Font)}
    pictures: dict[str, ShownPicture] = _each(tables, "pictures", problems, assets.check_picture)
    unread: dict[Key, str] = {("fonts", name): said for name, said in read.items() if isinstance(said, str)}
    unread |= {("pictures", name): picture.said for name, picture in pictures.items() if picture.said}
    panels: dict[str, Panel] = _each(
        stated, "panels", problems, lambda name, table: check_panel(name, table, charsets, fonts)
    )
    drawn = _kept_faces(tables, stated, channels, pictures, before)
    faces: dict[str, Face] = _each(
        tables,
        "faces",
        problems,
        lambda name, table: (
            (drawn[name], []) if name in drawn else check_face(name, table, panels, channels, pictures, tables)
        ),
    )
    return _Glass(charsets, fonts, pictures, unread, panels, faces)


def _hookup(tables: Table, problems: list[Problem], before: Project | None) -> Hookup:
    """Parts and connections."""
    same = before is not None and all(tables.get(key) == before.tables.get(key) for key in ("kinds", "parts", "wire"))
    if before is not None and same and lamp_tables(tables) == lamp_tables(before.tables):
        return before.hookup
    return with_currents_of_lamps(check_wiring(tables, problems), tables)


def _homes(tables: Table, hookup: Hookup, before: Project | None) -> Mapping[Key, Home]:
    """Facts that have a home elsewhere; the earlier ones, where nothing that they depend on has changed."""
    if before is not None and hookup is before.hookup and leans_on(tables) == leans_on(before.tables):
        return before.homes
    return homes_of(tables, hookup)


def _sums(
    stated: Table, hookup: Hookup, problems: list[Problem], before: Project | None
) -> tuple[Mapping[str, Sum], tuple[Check, ...], Mapping[str, str]]:
    """The sums of the hook-up, its bring-up list and what was measured."""
    if before is not None and hookup is before.hookup and stated.get("sums") == before.stated.get("sums"):
        return before.sums, before.checks, before.measured
    sums: dict[str, Sum] = _each(stated, "sums", problems, check_sum)
    return sums, *check_measured(stated, hookup, problems)


def _kept_sources(tables: Table, before: Project | None) -> Mapping[str, Source]:
    """Unchanged sources: they depend on nothing else."""
    found = tables.get("sources")
    if before is None or not isinstance(found, Mapping):
        return {}
    earlier = before.tables.get("sources", {})
    return {name: source for name, source in before.sources.items() if found.get(name) == earlier.get(name)}


def _kept_channels(tables: Table, hookup: Hookup, before: Project | None) -> Mapping[str, Channel]:
    """Unchanged channels, where everything that they depend on is unchanged."""
    if before is None or hookup is not before.hookup or tables.get("sources") != before.tables.get("sources"):
        return {}
    found, earlier = tables.get("channels"), before.stated.get("channels", {})
    if not isinstance(found, Mapping):
        return {}
    same = {name for name in before.channels if found.get(name) == earlier.get(name)}
    return {name: channel for name, channel in before.channels.items() if same.issuperset((name, *channel.chain.reads))}


def _kept_faces(
    tables: Table,
    stated: Table,
    channels: Mapping[str, Channel],
    pictures: Mapping[str, ShownPicture],
    before: Project | None,
) -> Mapping[str, Face]:
    """Unchanged faces, on unchanged panels, with the same channels and pictures: a picture's file may change though its
    table does not."""
    if before is None or before.channels.keys() != channels.keys() or before.pictures.keys() != pictures.keys():
        return {}
    if any(tables.get(key) != before.tables.get(key) for key in ("fonts", "pictures", "charsets")):
        return {}
    if any(picture is not before.pictures[name] for name, picture in pictures.items()):
        return {}
    other = {name for name, channel in channels.items() if channel is not before.channels[name]}
    found, earlier = tables.get("faces", {}), before.tables.get("faces", {})
    panels, panels_before = stated.get("panels", {}), before.stated.get("panels", {})
    return {
        name: face
        for name, face in before.faces.items()
        if found.get(name) == earlier.get(name)
        and panels.get(face.panel) == panels_before.get(face.panel)
        and other.isdisjoint(_texts_in(earlier.get(name)))
    }


def _texts_in(node: object) -> Iterator[str]:
    """All texts in a table, which include channels' names."""
    if isinstance(node, str):
        yield node
    elif isinstance(node, Mapping):
        for each in node.values():
            yield from _texts_in(each)
    elif isinstance(node, list):
        for each in node:
            yield from _texts_in(each)


def _with_groups(tables: Table, problems: list[Problem]) -> dict[str, Any]:
    """The tables without groups that are not tables of named tables: code that looks into a group finds tables there,
    and the problem is reported once."""
    found = dict(tables)
    for kind in GROUPS:
        group = tables.get(kind, {})
        if not isinstance(group, Mapping) or not all(isinstance(table, Mapping) for table in group.values()):
            problems.append(Problem(kind, shown(group), f'it must hold tables with names, like [{kind}."my own"]'))
            found[kind] = {}
    return found


def _each(
    tables: Table, kind: str, problems: list[Problem], check: Callable[[str, Table], tuple[Any, list[Problem]]]
) -> dict[str, Any]:
    """Check every table of one kind; good ones are returned, problems of the others collected."""
    good = {}
    for name, table in tables.get(kind, {}).items():
        result, found = check(name, table)
        problems += found
        if not found and result is not None:
            good[name] = result
    return good
