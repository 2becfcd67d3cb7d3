"""``lesart why --time``: the task or setting that explains a flicker, a lag, missing pulses or a freeze."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from lesart.cli.printed.answer import number, print_json
from lesart.core.quantity import counted, plain_number
from lesart.project.folder.store import FILE, read_text
from lesart.project.model import Project
from lesart.project.toml_values import dotted
from lesart.study.bench import Bench
from lesart.study.why.of_time import NOT, SHOWN, Explained, WhyTime, why_time


def run(folder: Path, project: Project, bench: Bench, symptom: str, *, as_json: bool) -> int:
    """0 where all limits are met or each verdict is explained, 1 where one is not."""
    found = why_time(project, bench, read_text(folder / FILE), symptom)
    if as_json:
        print_json({"symptom": symptom, "verdicts": [_object(each) for each in found]})
    elif not found:
        print(f"By the figures of the loop {NOT[symptom]}; compare it with a logic trace of the real thing in 8 Pace.")
    else:
        print("\n".join(line for each in found for line in _lines(each)))
    return int(any(not (each.causes or each.mends) for each in found))


def _lines(found: WhyTime) -> list[str]:
    verdict = found.verdict
    limit = "" if verdict.limit is None else f", and {_figure(verdict.limit, verdict.unit)} is the limit"
    lines = [f"{verdict.name}: {_figure(verdict.figure, verdict.unit)}{limit}."]
    for title, some in (("without", found.causes), ("if", found.mends)):
        for each in some[:SHOWN]:
            lines.append(f"   {title} {each.suspect.says}: {_figure(each.figure, verdict.unit)}")
            lines += (
                [] if each.suspect.is_cause else [f"      {dotted(key)} = {value}" for key, value in each.suspect.edits]
            )
    if not found.causes and not found.mends:
        alone = f"None of {counted(found.tried, 'change')} does it alone."
        traced = "A trace shows it, so it is the firmware that has to change."
        lines.append(f"   {traced if 'traced' in verdict.name else alone}")
        lines += [f"   nearer if {each.suspect.says}: {_figure(each.figure, verdict.unit)}" for each in found.nearer]
    return lines


def _figure(value: float, unit: str) -> str:
    return f"{plain_number(value, 3)} {unit}".strip()


def _object(found: WhyTime) -> dict[str, Any]:
    verdict = found.verdict
    return {
        "name": verdict.name,
        "figure": number(verdict.figure),
        "limit": verdict.limit,
        "unit": verdict.unit,
        "causes": [_explained(each) for each in found.causes],
        "mends": [_explained(each) for each in found.mends],
        "nearer": [_explained(each) for each in found.nearer],
        "tried": found.tried,
    }


def _explained(each: Explained) -> dict[str, Any]:
    return {
        "says": each.suspect.says,
        "figure": number(each.figure),
        "edits": [{"key": dotted(key), "value": value} for key, value in each.suspect.edits],
    }
