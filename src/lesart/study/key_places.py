"""Where a value of the project file is shown: the step and its leaf, and the same in words."""

from __future__ import annotations

from lesart.core.errors import LesartError
from lesart.core.notes import Key
from lesart.core.step import Step
from lesart.project.model import Project
from lesart.project.schema import parameters_at

OF_LAW = ("unit", "lowest", "highest", "outside")
"""Values of a channel itself that are shown in Law; the others in Raw."""


def seen_at(key: Key) -> tuple[Step, str]:
    """The step, and its leaf; no leaf for a step with only one."""
    match key:
        case ("channels", name, "variants", _, *rest):
            return seen_at(("channels", name, *rest))
        case ("channels", _, "part"):
            return Step.WIRE, "joins"
        case ("channels", _, "most_lag"):
            return Step.CALM, "filters"
        case ("channels", _, "law", *_):
            return Step.LAW, "laws"
        case ("channels", _, str(own)) if own in OF_LAW:
            return Step.LAW, "laws"
        case ("channels", _, "true", *_):
            return Step.TRUE, "references"
        case ("channels", _, "calibrations", *_):
            return Step.TRUE, "calibrations"
        case ("channels", _, "calm", *_):
            return Step.CALM, "filters"
        case ("channels", _, "alarms", *_):
            return Step.CALM, "alarms"
        case ("channels", _, "fit", *_):
            return Step.FIT, "rules"
        case ("parts", *_):
            return Step.WIRE, "parts"
        case ("sums", *_):
            return Step.WIRE, "sums"
        case ("wire", "measured", *_):
            return Step.WIRE, "bring-up"
        case ("wire", *_):
            return Step.WIRE, "joins"
        case ("panels", _, "scan", *_):
            return Step.PACE, "digits"
        case ("panels", _, "trace", *_):
            return Step.PACE, "trace"
        case ("panels", _, "glyphs", *_) | ("fonts", *_):
            return Step.GLASS, "glyphs"
        case ("pictures", *_):
            return Step.GLASS, "pictures"
        case ("panels", *_):
            return Step.GLASS, "panel"
        case ("faces", *_):
            return Step.GLASS, "items"
        case ("loop", *_):
            return Step.PACE, "tasks"
    return Step.RAW, ""


def said_at(project: Project, key: Key) -> str:
    """``most lag, in 5 Calm, filters``; empty for an unknown name."""
    try:
        found = next(each for each in parameters_at(project, key[:-1]) if each.name == key[-1])
    except (StopIteration, LesartError, KeyError):
        return ""
    step, leaf = seen_at(key)
    return f"{found.title}, in {step.number} {step.shown}{f', {leaf}' if leaf else ''}"
