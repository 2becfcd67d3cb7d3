"""Tasks that the loop already has, as people call them: ``update the display`` is ``draw door``, ``sample`` is ``read
air``."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable

from lesart.core.dataclass_later import dataclass

_THE = r"(?:\s+(?:of|for|from|the|my|this|each|all))*"
_DISPLAY = r"display|screen|panel|glass|lcd|oled|tft|(?:\d{1,2} |all )?digits?|readings?|picture|characters"
_DRAWS = (
    r"(?:draw|redraw|refresh|update|repaint)(?:s|ing)?(?:\s+(?:rate|period|interval|time))?|frame\s+rate|frames",
    r"(?:drawing|redraw|refresh|update|repaint)(?:s|ing)?(?:\s+(?:rate|period|interval))?",
)
_READS = (
    r"(?:read|sampl|poll|measur|acquir)(?:e?s?|ing)?(?:\s+(?:rate|period|interval))?",
    r"(?:read(?:ing)?|sampl(?:e|ing)|poll(?:ing)?|measur(?:e|ing|ements?))s?(?:\s+(?:rate|period|interval))?",
)
_POLLS = re.compile(r"(?:poll|measur|acquir)\w*")
"""Verbs that alone may mean anything."""
_SENSOR = r"(?:sensor|probe|input|adc|converter|it|values?|readings?|data)s?"
SCANS = re.compile(r"(?:multiplex|scann?|strob)(?:e?s|ed?|ing)?(?:\s+(?:rate|period|frequency))?", re.IGNORECASE)


@dataclass(frozen=True)
class Doing:
    """The tasks of a project's loop: ``panel`` is the one in front of ``panels``, ``source`` that of the chosen
    ``channel``."""

    panel: str
    panels: Collection[str]
    source: str
    channel: str
    tasks: Collection[str]


def same_task(name: str, doing: Doing) -> str | None:
    """The task of the loop that is meant; None where it is not one of them."""
    if name in doing.tasks:
        return name
    panel = panel_meant(name, doing)
    wanted = [f"draw {panel}", f"scan {panel}"] if panel is not None else []
    if panel is None and _is_reading(name, doing):
        wanted = [f"read {doing.source}"]
    return next((each for each in wanted if each in doing.tasks), None)


def panel_meant(name: str, doing: Doing) -> str | None:
    """The panel that these words draw or refresh; None where they mean something else."""
    return _object(name, _DRAWS, _DISPLAY, doing.panels, doing.panel)


def panel_scanned(name: str, doing: Doing) -> str | None:
    """The panel whose digits these words scan; the one in front where none is named."""
    return _object(name, (SCANS.pattern, SCANS.pattern), _DISPLAY, doing.panels, doing.panel)


def _is_reading(name: str, doing: Doing) -> bool:
    named = (doing.source, doing.channel)
    return not _POLLS.fullmatch(name) and _object(name, _READS, _SENSOR, named, doing.source) is not None


def _object(name: str, verbs: tuple[str, str], nouns: str, named: Iterable[str], usual: str) -> str | None:
    """The object of a verb: one of ``named``, or by a generic noun or by default the ``usual`` one."""
    before, behind = verbs
    words = " ".join(name.lower().split())
    forms = (
        rf"(?:{before})(?:{_THE}\s+(?P<what>.+))?",
        rf"(?:the\s+)?(?P<what>.+?)\s+(?:{behind})",
        rf"(?:the\s+)?(?P<what>{nouns})",
    )
    for form in forms:
        found = re.fullmatch(form, words)
        if found is None:
            continue
        what = found["what"] or ""
        if not what or re.fullmatch(nouns, what):
            return usual
        bare = re.sub(rf"^(?:{nouns})\s+|\s+(?:{nouns})$", "", what)
        same = next((each for each in named if each.lower() in (what, bare)), None)
        if same is not None:
            return same
    return None
