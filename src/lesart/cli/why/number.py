"""``lesart why`` for a channel: what it should read, and the mistakes that would explain what it reads."""

from __future__ import annotations

import argparse
import math
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.cli.printed.answer import number, print_json
from lesart.cli.project import channel_named
from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Key
from lesart.core.quantity import counted, format_quantity
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit
from lesart.desk.deeds.why import reading_now
from lesart.desk.entries.aloud.whys import seen_otherwise, truth_plainly
from lesart.project.model import Channel, Project
from lesart.project.toml_values import dotted
from lesart.study.bench import Bench
from lesart.study.why.apart import Answer
from lesart.study.why.asked import asked_truth
from lesart.study.why.number import WhyNumber, truths_of_references, why_number
from lesart.study.why.said import apart_said, now_said, same_said
from lesart.study.why.search import Explanation
from lesart.study.why.suspect import Suspect
from lesart.study.why.truth import Truth

SHOWN = 6


def run(folder: Path, project: Project, bench: Bench, options: argparse.Namespace) -> int:
    """0 where the channel is right or is explained, 1 where nothing explains it."""
    channel = channel_named(project, options.channel, options.variant)
    truths = [_truth(project, bench, channel, each) for each in options.truths or []]
    truths = truths or list(truths_of_references(channel))
    if not truths:
        raise RequestError(
            f'{channel.name}: say what it should read, like --should "21.5 {channel.unit}"; it has no references.'
        )
    found = why_number(project, bench, channel, truths)
    if options.json:
        print_json(why_object(found))
    else:
        print("\n".join(why_lines(found)))
    return int(not found.is_right and not found.answers and not found.said)


def _truth(project: Project, bench: Bench, channel: Channel, told: Mapping[str, Any]) -> Truth:
    """A true value as written, or said: ``3 °C too high``."""
    raw = _raw(told["raw"], channel.unit_raw) if "raw" in told else None
    at_s = told.get("at")
    now = reading_now(project, bench, channel, at_s=math.inf if at_s is None else at_s, raw=raw)
    said = truth_plainly(told["should"], channel.unit, now)
    if said == told["should"] and (how := seen_otherwise(said, channel.unit)):
        raise RequestError(f'--should "{said}": {how}.')
    return asked_truth(project, bench, channel, said, at_s=at_s, raw=raw)


def _raw(text: str, unit: Unit) -> float:
    try:
        return float(quantity_typed(text, unit).to(unit))
    except (QuantityError, UnitError) as error:
        raise RequestError(f'--raw "{text}": {str(error).rstrip(".")}; give a number in {unit}.') from error


def why_lines(found: WhyNumber) -> list[str]:
    """The answer for a person."""
    lines = now_said(found)
    if found.is_right:
        return lines
    if found.said:
        lines.append(found.said[0].upper() + found.said[1:] + ".")
    for place, each in enumerate(found.answers[:SHOWN], 1):
        lines += _answer_lines(found.channel, place, each)
    if len(found.answers) > SHOWN:
        lines.append(f"   and {counted(len(found.answers) - SHOWN, 'less likely one')}")
    if found.apart is not None:
        lines.append(apart_said(found, found.apart))
    return lines


def _answer_lines(channel: Channel, place: int, answer: Answer) -> list[str]:
    explanation = answer.explanation
    reads = ", ".join(format_quantity(each, channel.unit, 5) for each in explanation.reads.tolist())
    lines = [f"{place}  {explanation.sentence}: {reads}"]
    lines += [f"   {dotted(key)} = {value}" for each in explanation.suspects for key, value in each.edits]
    return lines + [f"   {line}" for line in same_said(answer)]


def why_object(found: WhyNumber) -> dict[str, Any]:
    """The answer for scripts."""
    apart = found.apart
    return {
        "channel": found.channel.name,
        "unit": found.channel.unit.symbol,
        "truths": [
            {"raw": number(each.raw), "reading": each.reading, "tolerance": each.tolerance, "now": number(now)}
            for each, now in zip(found.truths, found.now, strict=True)
        ],
        "right": found.is_right,
        "said": found.said or None,
        "answers": [
            _explained(each.explanation) | {"same": [_explained(other) for other in each.same]}
            for each in found.answers
        ],
        "apart": None if apart is None else {"bring_to": apart.true, "reads": list(apart.reads)},
        "tried": found.tried,
    }


def _explained(explanation: Explanation) -> dict[str, Any]:
    return {
        "sentence": explanation.sentence,
        "score": explanation.score,
        "reads": [number(each) for each in explanation.reads.tolist()],
        "mistakes": [_mistake(each) for each in explanation.suspects],
    }


def _mistake(suspect: Suspect) -> dict[str, Any]:
    return {
        "key": _key(suspect.key),
        "has": suspect.has or None,
        "would": suspect.would or None,
        "says": suspect.sentence,
        "edits": [{"key": _key(key), "value": value} for key, value in suspect.edits],
    }


def _key(key: Key | None) -> str | None:
    return None if key is None else dotted(key)
