"""Parts of the hook-up as laws and channels name them."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from lesart.core import law
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import Problem
from lesart.core.parameters import Parameter, shown
from lesart.core.wire.part import Part
from lesart.project.model import Table


@dataclass(frozen=True)
class KnownParts:
    """``good`` are the checked parts of the hook-up; ``named`` are all in the file, including those with a problem."""

    good: Mapping[str, Part]
    named: Collection[str] = ()


NO_PARTS = KnownParts({})


def part_named(parameter: Parameter, name: str, place: str, parts: KnownParts, problems: list[Problem]) -> Part | None:
    """The part of a name, or a problem with the existing ones."""
    part = parts.good.get(name)
    if part is not None and (not parameter.choices or part.kind.name in parameter.choices):
        return part
    fit = [each for each, found in parts.good.items() if not parameter.choices or found.kind.name in parameter.choices]
    kinds = " or ".join(parameter.choices)
    known = f"the hook-up has {', '.join(fit)}" if fit else f"the hook-up has none; add a {kinds or 'part'} in 1 Wire"
    problems.append(Problem(place, shown(name), f"{parameter.wanted}; {known}"))
    return None


def leans_on_broken(table: Table, parts: KnownParts) -> bool:
    """True where a channel names a part in the file that has a problem: one mistake, one sentence."""
    laws = table.get("law", [])
    named = [table.get("part")]
    for entry in laws if isinstance(laws, list) else []:
        if isinstance(entry, Mapping):
            named += [entry.get(each.name) for each in _part_parameters(str(entry.get("kind")))]
    return any(name in parts.named and name not in parts.good for name in named)


def _part_parameters(kind: str) -> list[Parameter]:
    record = law.KINDS.get(kind)
    return [each for each in record.parameters if each.kind == "part"] if record else []
