"""Wire, the leaf that asks why nothing comes: the checks for a part, in order."""

from __future__ import annotations

from lesart.core.errors import LesartError
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.desk.workspace.wire.bringup import check_lines
from lesart.study.views import Line


def silent_part(context: Context) -> str:
    """The part that was named, or that of the chosen channel; empty where not stated."""
    named = context.state.why.part
    return named if named in context.project.hookup.parts else context.channel.part


def why_lines(context: Context) -> list[Line]:
    """What the capture shows, then check by check; after a wrong one no more are asked."""
    from lesart.study.why.nothing import path_of, symptom  # only loaded where something is asked

    part = silent_part(context)
    if not part:
        return [
            *wrapped(f"Which part {context.channel.name} is read from is not said."),
            (text("   y", "ochre"), label(" asks which part says nothing.")),
        ]
    lines: list[Line] = []
    if context.channel.part == part:
        lines += wrapped(symptom(context.project, context.bench, context.channel), "lapis")
    try:
        path = path_of(context.project, part)
    except LesartError as error:
        return wrapped(str(error), "rubric")
    lines.append((label("   Nothing comes of "), text(part, "ochre"), label("? In this order, from its rails on:")))
    lines.append(
        (text("   enter", "ochre"), label(" types what the meter shows, "), text("y", "ochre"), label(" another part"))
    )
    lines.append(())
    for place, each in enumerate(path.stops, 1):
        lines += check_lines(context, place, each.check)
        if each is path.wrong:
            return [
                *lines,
                (),
                *wrapped("That explains it; what comes later cannot be judged until it is right.", "rubric"),
            ]
    if path.next is None:
        lines += [(), *wrapped("All of it is right: the fault is in the part itself, or in the program that reads it.")]
    return lines
