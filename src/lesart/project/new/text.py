"""The text of a new project: sources, one channel per column, panels with their traces, a face for the first
channels."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import field
from typing import Any

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.inspect import honest_decimals
from lesart.core.quantity import plain_number
from lesart.core.raw.no_reading import no_reading_text, with_none_marked
from lesart.core.raw.timing import Timing, raw_facts, timing_of
from lesart.core.units import Unit, parse_unit
from lesart.project.new.limits import round_limits
from lesart.project.new.words import FRAME_COUNT

COUNTS = parse_unit("ct")
PLAIN = parse_unit("1")
ENTRIES = ("fields", "registers")
"""Lists of tables in a source."""
USUAL_AGE_S = 5.0
"""Default age at which a field is stale: ``core/fit/field.py``."""
AT_WILL = 0.1
"""Above this share of gaps samples have no regular interval."""
MISSED = 2.5
"""Number of intervals after which a reading is stale: one may be late, two have failed."""


@dataclass(frozen=True, eq=False)
class NewChannel:
    """A channel called ``name`` for a column of a source, with its content."""

    name: str
    source: str
    column: str
    unit: Unit
    is_whole: bool
    block: Block
    no_reading: tuple[float, ...] = ()
    """Values that stand for none."""


@dataclass(frozen=True)
class NewPanel:
    """``table`` and ``trace`` as in the project file; ``trace`` is empty without one."""

    name: str
    table: Mapping[str, Any]
    trace: Mapping[str, Any] = field(default_factory=dict)


GLASS = NewPanel("glass", {"kind": "characters", "columns": 16, "rows": 2})
"""The panel of a new project."""


def project_text(
    made_from: str,
    title: str,
    sources: Mapping[str, Mapping[str, Any]],
    channels: Sequence[NewChannel],
    panels: Sequence[NewPanel] = (),
    idle: Sequence[str] = (),
) -> str:
    """The project file; the first channels on a two-line display. ``idle`` are tasks that are left out of the loop."""
    lines = [
        f"# Made by lesart new from {made_from}. Everything here can be changed, by hand or on the screen.",
        "lesart = 1",
        f"name = {_value(title)}",
    ]
    for name, table in sources.items():
        lines += ["", *_source_lines(name, table)]
    for channel in channels:
        lines += ["", *_channel_lines(channel)]
    for panel in (*panels, GLASS):
        lines += ["", *_panel_lines(panel)]
    lines += ["", *_face_lines([channel.name for channel in channels])]
    for task in idle:
        lines += ["", f"[loop.tasks.{_value(task)}]", "off = true"]
    return "\n".join([*lines, ""])


def _value(value: object) -> str:
    """A value as TOML: JSON's form of texts, numbers and booleans is the same."""
    return json.dumps(value, ensure_ascii=False)


def _key(name: str) -> str:
    return name if re.fullmatch(r"[A-Za-z0-9_-]+", name) else _value(name)


def _pairs(table: Mapping[str, Any]) -> list[str]:
    return [f"{key} = {_value(value)}" for key, value in table.items()]


def _source_lines(name: str, table: Mapping[str, Any]) -> list[str]:
    place = f"sources.{_key(name)}"
    lines = [
        f"[{place}]",
        *_pairs({key: each for key, each in table.items() if key not in ("decode", *ENTRIES, "line")}),
    ]
    for inner in ("decode", "line"):
        if inner in table:
            own = {key: each for key, each in table[inner].items() if key not in ENTRIES}
            lines += ["", f"[{place}.{inner}]", *_pairs(own)]
            for entries in ENTRIES:
                for each in table[inner].get(entries, ()):
                    lines += ["", f"[[{place}.{inner}.{entries}]]", *_pairs(each)]
    for entries in ENTRIES:
        for each in table.get(entries, ()):
            lines += ["", f"[[{place}.{entries}]]", *_pairs(each)]
    return lines


def _panel_lines(panel: NewPanel) -> list[str]:
    place = f"panels.{_key(panel.name)}"
    lines = [f"[{place}]", *_pairs(panel.table)]
    return [*lines, "", f"[{place}.trace]", *_pairs(panel.trace)] if panel.trace else lines


def _face_lines(names: Sequence[str]) -> list[str]:
    """Lines of a face: one channel over both rows; of several the first two, one row each."""
    shown = names[:2]
    room = 7 if len(shown) > 1 else 16
    lines = ["[faces.first]", 'panel = "glass"']
    for row, name in enumerate(shown):
        place = {"row": row, "column": 8, "width": 8} if len(shown) > 1 else {"row": 1, "width": 16}
        label = {"kind": "label", "text": _label(name)[:room], "row": row}
        for item in (label, {"kind": "field", "channel": name, **place}):
            lines += ["", "[[faces.first.items]]", *_pairs(item)]
    return lines


def _label(name: str) -> str:
    """A label: the name without its unit, in letters that every character panel has."""
    bare = re.split(r"\s*[\[(/]", name)[0] or name
    return "".join(letter for letter in bare if " " <= letter <= "~").strip()[:16] or "reading"


def _channel_lines(channel: NewChannel) -> list[str]:
    unit = channel.unit
    facts = raw_facts(with_none_marked(channel.block, channel.no_reading))
    # A counting byte wraps, even if that was not heard.
    ends = (0, 255) if channel.column == FRAME_COUNT else round_limits(facts.least, facts.greatest)
    lowest, highest = (f"{end} {unit}".removesuffix(" 1") for end in ends)
    decimals = 0 if channel.is_whole else min(honest_decimals(facts.noise) if facts.noise else 2, 4)
    unit_text = "" if unit in (PLAIN, COUNTS) else unit.symbol if unit.symbol.isascii() or "°" in unit.symbol else ""
    place = f"channels.{_value(channel.name)}"
    told = {
        "source": channel.source,
        "column": channel.column,
        "raw_unit": str(unit),
        **({"no_reading": no_reading_text(channel.no_reading)} if channel.no_reading else {}),
        "unit": str(unit),
        "lowest": lowest,
        "highest": highest,
    }
    fit = {"width": 8, "decimals": decimals, "unit_text": unit_text if len(unit_text) <= 4 else ""}
    if (age := _stale_after(timing_of(channel.block.t))) is not None:
        fit["stale_after"] = age
    return [f"[{place}]", *_pairs(told), "", f"[{place}.fit]", *_pairs(fit)]


def _stale_after(timing: Timing) -> str | None:
    """The stale limit: two readings may fail; None where the default is enough.

    Event-driven values have no interval: the longest silence may happen again.
    """
    comes_at_will = timing.gaps > AT_WILL * timing.samples
    age_s = MISSED * (timing.longest_gap_s if comes_at_will else timing.interval_s)
    return f"{plain_number(age_s, 3)} s" if age_s > USUAL_AGE_S else None
