"""The record of every kind of panel: its description, and how one is built."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.scan import Scan
from lesart.core.glyphs.charsets import CharacterSet
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class Given:
    """What a panel is built from besides its values: scan, custom glyphs by letter, character sets and fonts by
    name."""

    scan: Scan | None = None
    glyphs: Mapping[str, str] = field(default_factory=dict)
    charsets: Mapping[str, CharacterSet] = field(default_factory=dict)
    fonts: Mapping[str, Font] = field(default_factory=dict)


@dataclass(frozen=True)
class PanelKind:
    """The record of a kind. ``build`` takes the panel's name and values by parameter; it raises ValueError."""

    name: str
    parameters: tuple[Parameter, ...]
    build: Callable[[str, Mapping[str, Any], Given], Panel]
    has_glyphs: bool = False
    """True where it takes custom glyphs."""
    is_scanned: Callable[[Mapping[str, Any]], bool] = lambda values: False
    """True where its digits are scanned with these values."""
    may_be_scanned: bool = False
    """True where it may have scan times."""
