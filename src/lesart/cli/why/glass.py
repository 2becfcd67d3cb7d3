"""``lesart why`` for a panel: which of these do you see, until one set-up is left that explains it."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from lesart.cli.hand import lit_object
from lesart.cli.printed.answer import print_json
from lesart.core.errors import RequestError
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.quantity import counted
from lesart.project.toml_values import dotted
from lesart.study.why.drawn import drawn
from lesart.study.why.glass_suspect import GlassSuspect
from lesart.study.why.seen import seen_by
from lesart.study.why.twenty import Asked, Question, asked_so_far, shown_memories

BESIDE = 2
GAP = "    "


def run(options: argparse.Namespace, folder: Path, panel: Panel) -> int:
    """0 while something is left that explains what is seen, 1 where nothing does."""
    faces = _faces(folder, options, panel)
    memories = shown_memories(panel, faces)
    first = _first(options.pattern, memories, panel)
    if options.sees is not None:
        found = _typed(options, panel, memories, first or next(iter(memories)))
    else:
        found = _picked(options, panel, faces, first)
    if options.json:
        print_json(_object(panel, found))
    else:
        print("\n".join(asked_lines(panel, found)))
    return int(not found.left)


def _faces(folder: Path, options: argparse.Namespace, panel: Panel) -> dict[str, Memory]:
    """The face shown at the cursor; none for a panel without one."""
    from lesart.desk.opening import open_desk
    from lesart.desk.picture import memory_at

    desk = open_desk(folder)
    faces = desk.state.project.faces_on(panel.name)
    if not faces:
        return {}
    if options.at is not None:
        desk.put_cursor(options.at)
    return {faces[0].name: memory_at(desk, panel.name)}


def _first(named: str | None, memories: dict[str, Memory], panel: Panel) -> str:
    if named is None:
        return ""
    found = next((each for each in memories if named in (each, each.split(",")[0], each.removeprefix("face "))), None)
    if found is None:
        raise RequestError(f'--pattern "{named}": {panel.name} can show {", ".join(memories)}.')
    return found


def _picked(options: argparse.Namespace, panel: Panel, faces: dict[str, Memory], first: str) -> Asked:
    try:
        return asked_so_far(panel, faces, options.pick, first)
    except ValueError as error:
        raise RequestError(f"--pick: {error}; 0 is none of these.") from error


def _typed(options: argparse.Namespace, panel: Panel, memories: dict[str, Memory], shown: str) -> Asked:
    from lesart.study.why.of_glass import glass_suspects
    from lesart.study.why.twenty import Looked, best_question

    left = seen_by(panel, memories[shown], options.sees, glass_suspects(panel))
    left = tuple(sorted(left, key=lambda each: -each.weight))
    return Asked(best_question(memories, left, Looked()) if len(left) > 1 else None, left, 1)


def asked_lines(panel: Panel, found: Asked) -> list[str]:
    """The answer for a person."""
    if not found.left:
        return [f"{panel.name}: no single thing of its set-up explains what you see."]
    if found.question is None:
        return _answer_lines(panel, found.left)
    question = found.question
    lines = [
        f"{panel.name}: {counted(len(found.left), 'thing')} may be different. Show {question.name}; which of these do "
        "you see?"
    ]
    lines += _looks(question)
    if question.others:
        lines.append("0  none of these")
    return [*lines, "Answer with --pick N, once for each question."]


def _looks(question: Question) -> list[str]:
    lines = []
    pictures = [(str(place), drawn(look.frame)) for place, look in enumerate(question.looks, 1)]
    for start in range(0, len(pictures), BESIDE):
        some = pictures[start : start + BESIDE]
        high = max(len(picture) for _, picture in some)
        for row in range(high):
            cells = []
            for name, picture in some:
                wide = len(picture[0])
                line = picture[row] if row < len(picture) else " " * wide
                cells.append(f"{name if row == 0 else '':<3}{line:<{wide}}")
            lines.append(GAP.join(cells).rstrip())
        lines.append("")
    return lines


def _answer_lines(panel: Panel, left: tuple[GlassSuspect, ...]) -> list[str]:
    lines = [f"{panel.name}: {left[0].says}.", *_mends(left[0])]
    if len(left) > 1:
        lines.append("No pattern tells it from:")
        for each in left[1:]:
            lines += [f"  {each.says}", *(f"  {line}" for line in _mends(each))]
    return lines


def _mends(suspect: GlassSuspect) -> list[str]:
    lines = [f"   {dotted(key)} = {value}" for key, value in suspect.edits]
    return [*lines, *([f"   {suspect.remedy}"] if suspect.remedy else [])]


def _object(panel: Panel, found: Asked) -> dict[str, Any]:
    question = found.question
    return {
        "panel": panel.name,
        "picked": found.picked,
        "left": [_suspect(each) for each in found.left],
        "question": None
        if question is None
        else {
            "shows": question.name,
            "looks": [
                {"lit": lit_object(look.frame), "of": [each.says for each in look.suspects]} for look in question.looks
            ],
            "others": [each.says for each in question.others],
        },
    }


def _suspect(each: GlassSuspect) -> dict[str, Any]:
    return {
        "says": each.says,
        "edits": [{"key": dotted(key), "value": value} for key, value in each.edits],
        "remedy": each.remedy or None,
    }
