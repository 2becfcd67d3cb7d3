"""The part of the hook-up that people mean at ``y`` in 1 Wire: ``the display``, ``nothing from scale``."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.desk.entries.aloud.article import without_article
from lesart.project.model import Project

_BEFORE = re.compile(
    r"^(?:(?:there is )?(?:nothing|no answer|no data|no reading|no signal)(?: comes)? (?:from|of|at|by) |why is )", re.I
)
_BEHIND = re.compile(
    r" (?:(?:is |are |stays |remains )?(?:silent|dead|dark|blank|stuck|mute)|"
    r"(?:is|are) (?:missing|not there|not responding)|"
    r"(?:does not|doesn't|won't|will not|never) (?:answer|respond|reply|work|talk|react|light up)s?|"
    r"(?:says|gives|sends|shows|reads) nothing)[?.]?$",
    re.I,
)
"""Words around the name of a silent part."""
CALLED = {"lcd": "display", "screen": "display", "glass": "display", "mcu": "board", "controller": "board"}
"""Other names of kinds of parts."""


def part_meant(typed: str, project: Project) -> str:
    """The part by its own name, by a channel or a source that is read from it, or by its kind where there is only one.

    Raises RequestError for none, or several.
    """
    plain = " ".join(typed.split())
    said = without_article(_BEHIND.sub("", _BEFORE.sub("", plain)).rstrip("?.")).strip()
    parts = project.hookup.parts
    for wanted in (typed.strip(), said):
        if wanted in parts:
            return wanted
    found = [name for name in parts if name.lower() == said.lower()] or _read_from(said, project)
    found = found or _of_kind(said, project)
    if len(found) == 1:
        return found[0]
    if found:
        several = " or ".join(found)
        raise RequestError(f'"{said}" may be {several}; name one of them.')
    known = ", ".join(parts) or "none; + adds one"
    raise RequestError(f'"{said}" is not a part of the hook-up; there are {known}.')


def _read_from(said: str, project: Project) -> list[str]:
    """The parts of the channel with that name or beginning, or of all channels of the source.

    Raises RequestError where no part is stated.
    """
    from lesart.study.why.nothing import part_of  # only loaded when asked for

    lowered = said.lower()
    channels = [each for each in project.channels.values() if each.name.lower() == lowered]
    channels = channels or [each for each in project.channels.values() if each.source.lower() == lowered]
    begun = [each for each in project.channels.values() if each.name.lower().startswith(f"{lowered} ")]
    channels = channels or (begun if len({each.part for each in begun}) == 1 else [])
    found = list(dict.fromkeys(each.part for each in channels if each.part))
    return found or [part_of(each) for each in channels[:1]]


def _of_kind(said: str, project: Project) -> list[str]:
    """Parts whose kind has all of these words, or whose name begins with them."""
    words = [CALLED.get(word, word) for word in said.lower().split()]
    parts = project.hookup.parts
    of_kind = [name for name, part in parts.items() if set(words) <= {*part.kind.name.lower().split()}]
    return of_kind or [name for name in parts if name.lower().startswith(said.lower())]
