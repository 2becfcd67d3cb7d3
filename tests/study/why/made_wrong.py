"""Projects with one statement made wrong, and truths of what they were before: the search must find the way back."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from lesart.core.errors import ProjectError, RequestError
from lesart.core.notes import Key, Written
from lesart.project.check import check_project
from lesart.project.model import Channel, Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from lesart.study.bench import Bench
from lesart.study.why.number import WhyNumber, why_number
from lesart.study.why.of_parameters import law_suspects, unit_suspects
from lesart.study.why.of_raw import field_suspects, spec_of
from lesart.study.why.suspect import Suspect
from lesart.study.why.thread_model import NEVER, model_of
from lesart.study.why.truth import Truth

HEAD = 'lesart = 1\nname = "made"\n\n[sources.bench]\ncapture = "bench.csv"\nheader = 1\nrate = "10 Hz"\n'


def generated(chance: random.Random) -> str:
    """A project of one channel with laws as people have them, every constant at random among sensible ones."""
    kind = chance.choice(list(KINDS))
    raw_unit, unit, low, high, laws, more = KINDS[kind](chance)
    channel = (
        f'[channels.made]\nsource = "bench"\ncolumn = "x"\nraw_unit = "{raw_unit}"\nunit = "{unit}"\n'
        f'lowest = "{low} {unit}"\nhighest = "{high} {unit}"\n'
    )
    tables = "\n".join(
        "[[channels.made.law]]\n" + "\n".join(f"{name} = {_written(value)}" for name, value in law.items())
        for law in laws
    )
    return f"{HEAD}\n{channel}\n{tables}\n{more}\n"


def _written(value: object) -> str:
    return str(value).lower() if isinstance(value, bool) else f'"{value}"' if isinstance(value, str) else str(value)


def _converter(chance: random.Random) -> dict[str, object]:
    return {
        "kind": "converter",
        "bits": chance.choice([10, 12, 16]),
        "reference": chance.choice(["1.1 V", "2.5 V", "3.3 V", "5 V"]),
    }


def _thermistor(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    resistance = chance.choice(["4.7 kΩ", "10 kΩ", "47 kΩ", "100 kΩ"])
    supply = chance.choice(["3.3 V", "5 V"])
    laws = [
        {"kind": "converter", "bits": chance.choice([10, 12]), "reference": supply},
        {
            "kind": "half of a divider",
            "part": "R",
            "sensor": chance.choice(["to ground", "to supply"]),
            "supply": supply,
        },
        {
            "kind": "thermistor by beta",
            "beta": chance.choice(["3380 K", "3435 K", "3950 K", "3977 K"]),
            "resistance": resistance,
        },
    ]
    return "ct", "°C", -20, 80, laws, f'[parts.R]\nkind = "resistor"\nresistance = "{resistance}"\n'


def _battery(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    laws = [_converter(chance), {"kind": "divider", "part": "D"}]
    upper, lower = chance.choice([("100 kΩ", "10 kΩ"), ("27 kΩ", "10 kΩ"), ("300 kΩ", "100 kΩ")])
    return "ct", "V", 0, 16, laws, f'[parts.D]\nkind = "divider"\nupper = "{upper}"\nlower = "{lower}"\n'


def _scale(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    volt = chance.choice(["3.3 V", "5 V"])
    laws: list[dict[str, object]] = [
        {"kind": "bridge converter", "bits": 24, "gain": chance.choice(["64", "128"]), "reference": volt, "excitation": volt},
        {"kind": "load cell", "capacity": chance.choice(["5 kg", "20 kg", "50 kg", "200 kg"]),
         "sensitivity": chance.choice(["1 mV/V", "2 mV/V"])},
    ]  # fmt: skip
    return "ct", "kg", 0, 200, laws, ""


def _echo(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    laws: list[dict[str, object]] = [
        {"kind": "timer ticks", "clock": chance.choice(["1 MHz", "16 MHz"]), "prescaler": chance.choice([1, 8]), "bits": 32},
        {"kind": "echo", "air": f"{chance.choice([10, 20, 25])} °C"},
    ]  # fmt: skip
    return "ct", "mm", 20, 4000, laws, ""


def _turns(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    laws: list[dict[str, object]] = [
        {"kind": "gate rate", "gate": chance.choice(["1 s", "2 s", "10 s"]), "marks": chance.choice(["1", "2", "4", "20"])}
    ]  # fmt: skip
    return "ct", "1/min", 0, 6000, laws, ""


def _loop(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    ohm = chance.choice(["100 Ω", "150 Ω", "250 Ω"])
    laws = [
        {**_converter(chance), "reference": "5 V"},
        {"kind": "shunt", "part": "S"},
        {"kind": "current loop", "low": "0 bar", "high": chance.choice(["6 bar", "10 bar", "16 bar"])},
    ]
    return "ct", "bar", 0, 20, laws, f'[parts.S]\nkind = "resistor"\nresistance = "{ohm}"\n'


def _straight(chance: random.Random) -> tuple[str, str, float, float, list[dict[str, object]], str]:
    laws = [
        _converter(chance),
        {
            "kind": "linear",
            "input": "500 mV",
            "output": "0 °C",
            "slope": chance.choice(["100 K/V", "50 K/V", "25 K/V"]),
        },
    ]
    return "ct", "°C", -40, 125, laws, ""


KINDS = {
    "thermistor": _thermistor,
    "battery": _battery,
    "scale": _scale,
    "echo": _echo,
    "turns": _turns,
    "loop": _loop,
    "straight": _straight,
}


@dataclass(frozen=True)
class Wrong:
    """``project`` states something else than ``right`` did at ``key``, where ``was`` stood."""

    right: Project
    project: Project
    name: str
    slot: str
    key: Key
    was: Written


def mistakes(text: str, project: Project, name: str, chance: random.Random) -> Iterator[Wrong]:
    """The project with each suspect of the channel written into it, in any order."""
    channel = project.channels[name]
    suspects = [*law_suspects(channel), *unit_suspects(channel), *field_suspects(project, channel)]
    suspects = [each for each in suspects if each.edits]
    chance.shuffle(suspects)
    slots: set[str] = set()
    for each in suspects:
        if each.slot in slots:
            continue
        slots.add(each.slot)
        try:
            wrong = check_project(_edited(text, each))
        except (ProjectError, RequestError):
            continue
        key = each.edits[0][0]
        was = value_at(project.stated, key)
        if was is not None and name in wrong.channels:
            yield Wrong(project, wrong, name, each.slot, key, was)


def _edited(text: str, suspect: Suspect) -> str:
    editor = Editor()
    for key, value in suspect.edits:
        text = editor.with_value(text, key, value)
    return text


def truths(wrong: Wrong, raws: list[Truth], count: int, chance: random.Random) -> list[Truth]:
    """``count`` of what was right, far from each other, each off by up to its tolerance."""
    channel = wrong.right.channels[wrong.name]
    model = model_of(channel, {}, None)
    readings = model.at(raws)
    good = [
        (raw, float(y))
        for raw, y in zip(raws, readings.tolist(), strict=True)
        if np.isfinite(y) and channel.lowest <= y <= channel.highest
    ]
    if len(good) < count:
        return []
    places = np.linspace(0.1, 0.9, count) if count > 1 else [chance.uniform(0.1, 0.9)]
    good.sort(key=lambda each: each[1])
    found = []
    span = good[-1][1] - good[0][1]
    for place in places:
        raw, y = good[int(place * (len(good) - 1))]
        tolerance = 0.005 * span + 0.005 * abs(y)
        found.append(replace(raw, reading=y + chance.uniform(-0.6, 0.6) * tolerance, tolerance=tolerance))
    return found


def shows(wrong: Wrong, given: list[Truth]) -> bool:
    """Is the mistake seen at all at these truths?"""
    channel = wrong.project.channels[wrong.name]
    spec = spec_of(wrong.project, channel) if all(each.data for each in given) else None
    try:
        now = model_of(channel, {}, spec).at(given)
    except NEVER:
        return False
    return any(not abs(x - each.reading) <= each.tolerance for x, each in zip(now.tolist(), given, strict=True))


def asked(wrong: Wrong, bench: Bench, given: list[Truth]) -> WhyNumber:
    return why_number(wrong.project, bench, wrong.project.channels[wrong.name], given)


def is_it(wrong: Wrong, suspect: Suspect) -> bool:
    """Does it name the statement that was changed? Which value it must be is told by the truths."""
    return suspect.slot == wrong.slot or any(key == wrong.key for key, _ in suspect.edits)


def rank(wrong: Wrong, found: WhyNumber) -> int:
    """At which answer it stands, from 1, those that no reading tells from it included; 0 where it is in none."""
    for place, answer in enumerate(found.answers, 1):
        for each in (answer.explanation, *answer.same):
            if len(each.suspects) == 1 and is_it(wrong, each.suspects[0]):
                return place
    return 0


def raw_truths(channel: Channel, count: int = 400) -> list[Truth]:
    """Raw values over the channel's range."""
    low, high = sorted((channel.chain.raw_for(channel.lowest), channel.chain.raw_for(channel.highest)))
    if not (np.isfinite(low) and np.isfinite(high)):
        low, high = 0.0, 4095.0
    whole = channel.unit_raw.symbol == "ct"
    found = np.linspace(low, high, count)
    return [Truth(float(round(x)) if whole else float(x), 0.0, 1.0) for x in found]
