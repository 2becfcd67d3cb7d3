"""The kinds of panels, by name: another one is a module with its record, and a line here."""

from __future__ import annotations

from lesart.core.glass.panels.character_panel import CHARACTERS
from lesart.core.glass.panels.colour_panel import COLOURED
from lesart.core.glass.panels.ink_panel import INKED
from lesart.core.glass.panels.lamp_panel import LAMPS
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.pixel_panel import PIXELS
from lesart.core.glass.panels.segment_panel import SEGMENTS
from lesart.core.parameters import Parameter

KINDS: dict[str, PanelKind] = {kind.name: kind for kind in (SEGMENTS, CHARACTERS, PIXELS, COLOURED, INKED, LAMPS)}


def kind_parameter() -> Parameter:
    """The parameter that names a panel's kind."""
    return Parameter("kind", "kind", "choice", "what sort of display", choices=tuple(KINDS))
