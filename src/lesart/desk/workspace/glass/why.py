"""Glass, the leaf that asks what one sees: the looks of a panel with each single wrong setting."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.glass.faces.face import compose
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.quantity import counted
from lesart.desk.workspace.context import Context, label, text, wrapped
from lesart.study.tokens import token_of
from lesart.study.views import Edit, Line, Span

if TYPE_CHECKING:
    from lesart.study.why.glass_suspect import GlassSuspect
    from lesart.study.why.twenty import Asked

BESIDE, GAP = 2, 4
HELP = "x writes it"


def asked_here(context: Context, panel: Panel) -> Asked:
    """The state of the questions about the panel in front."""
    from lesart.study.why.twenty import asked_so_far  # only loaded where something is asked

    look = context.state.why
    is_of = look.panel == panel.name
    picks = look.picks if is_of else ()
    faces = dict(look.faces) if is_of and look.faces else faces_now(context, panel)
    key = ("why", token_of(panel), tuple(faces.items()), picks)
    return context.bench.once_known(key, lambda: asked_so_far(panel, faces, picks))


def faces_now(context: Context, panel: Panel) -> dict[str, Memory]:
    """The face that is on now."""
    faces = context.project.faces_on(panel.name)[:1]
    return {face.name: compose(face, panel, context.readings).memory for face in faces}


def why_lines(context: Context, panel: Panel) -> list[Line]:
    """The most informative question, or the answer."""
    found = asked_here(context, panel)
    again: Line = (text("   y", "ochre"), label(" with nothing typed begins again"))
    if not found.left:
        return [*wrapped("No single thing of its set-up explains what you see.", "rubric"), (), again]
    if found.question is None:
        return [*_answer(found.left), (), again]
    question = found.question
    left = counted(len(found.left), "thing")
    lines: list[Line] = [
        (
            label("   On the bench "),
            text(panel.name, "ochre"),
            label(" shows "),
            text(question.name, "ochre"),
            label("."),
        ),
        (
            text("   Which of these do you see? "),
            text("y", "ochre"),
            label(f" and its number; {left} may be different"),
        ),
        (),
    ]
    lines += _looks(found)
    if question.others:
        lines.append((text(" 0 ", "rubric"), label("none of these")))
    return [*lines, *([again] if found.picked else [])]


def _looks(found: Asked) -> list[Line]:
    from lesart.study.why.drawn import WIDEST, drawn

    assert found.question is not None
    pictures = [drawn(look.frame) for look in found.question.looks]
    beside = BESIDE if max(len(picture[0]) for picture in pictures) <= WIDEST + BESIDE else 1
    lines: list[Line] = []
    for start in range(0, len(pictures), beside):
        row = pictures[start : start + beside]
        for at in range(max(map(len, row))):
            spans: list[Span] = []
            for place, picture in enumerate(row, start + 1):
                drawn_line = picture[at] if at < len(picture) else ""
                spans.append(text(f"{place if at == 0 else '':>2} ", "rubric"))
                spans.append(text(f"{drawn_line:<{len(picture[0]) + GAP}}", "text"))
            lines.append(tuple(spans))
        lines.append(())
    return lines


def _answer(left: tuple[GlassSuspect, ...]) -> list[Line]:
    lines: list[Line] = [*wrapped(f" {_sentence(left[0].says)}", "verdigris"), *_mends(left[0])]
    if len(left) > 1:
        lines += [(), (label("   No pattern tells it from"),)]
        for each in left[1:]:
            lines += [*wrapped(f"   {each.says}"), *_mends(each)]
    return lines


def _sentence(clause: str) -> str:
    return f"{clause[0].upper()}{clause[1:]}."


def _mends(suspect: GlassSuspect) -> list[Line]:
    lines: list[Line] = []
    for key, value in suspect.edits:
        shown = str(value).lower() if isinstance(value, bool) else str(value)
        edit = Edit(key, str(key[-1]).replace("_", " "), shown, HELP)
        lines.append(
            (label(f"   {str(key[-1]).replace('_', ' ')} "), Span(shown, "ochre", True, edit), label("; x writes it"))
        )
    return [*lines, *(wrapped(f" {_sentence(suspect.remedy)}", "ochre") if suspect.remedy else [])]
