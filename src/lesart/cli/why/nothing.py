"""``lesart why`` for a silent part: what to measure, where, and what each outcome means."""

from __future__ import annotations

from typing import Any

from lesart.cli.printed.answer import print_json
from lesart.core.quantity import counted
from lesart.core.wire.silent_part import Path, Stop
from lesart.project.model import Channel, Project
from lesart.project.toml_values import dotted
from lesart.study.bench import Bench
from lesart.study.why.nothing import part_of, path_of, symptom


def run(project: Project, bench: Bench, channel: Channel | None, part: str, *, as_json: bool) -> int:
    """0 where a measured check explains it, 1 while none does."""
    said = "" if channel is None else symptom(project, bench, channel)
    part = part or part_of(channel) if channel is not None else part
    path = path_of(project, part)
    if as_json:
        print_json(_object(part, said, path))
    else:
        print("\n".join(_lines(part, said, path)))
    return int(path.wrong is None)


def _lines(part: str, said: str, path: Path) -> list[str]:
    lines = [said] if said else []
    right = sum(each.judged is not None and each.judged.good for each in path.stops)
    lines.append(f"{part}: {counted(len(path.stops), 'check')} in this order; {right} measured and right.")
    for place, each in enumerate(path.stops, 1):
        lines.append(f"{place:>2}  {each.check.does}")
        lines += _outcome(each)
        if each is path.wrong:
            lines.append("    That explains it; what comes later cannot be judged until it is right.")
            break
    if path.next is not None:
        lines.append(f'Next is "{path.next.check.key}"; write what you measure at {dotted(_key(path.next))}.')
    elif path.wrong is None:
        lines.append("All of it is right; the fault is in the part itself, or in the program that reads it.")
    return lines


def _outcome(each: Stop) -> list[str]:
    check = each.check
    if each.judged is not None:
        says = f": {each.judged.says}" if each.judged.says else ""
        return [f"    measured, {'right' if each.judged.good else 'wrong'}{says}"]
    lines = [f"    right: {check.expects}"]
    low = "less" if check.unit else "no"
    lines += [f"    {low}: {check.means_low}"] if check.means_low else []
    return lines + ([f"    more: {check.means_high}"] if check.means_high else [])


def _key(each: Stop) -> tuple[str, ...]:
    return "wire", "measured", each.check.key


def _object(part: str, said: str, path: Path) -> dict[str, Any]:
    return {
        "part": part,
        "symptom": said or None,
        "checks": [
            {
                "key": dotted(_key(each)),
                "does": each.check.does,
                "right": each.check.expects,
                "less": each.check.means_low or None,
                "more": each.check.means_high or None,
                "measured": None if each.judged is None else each.judged.good,
                "says": None if each.judged is None else each.judged.says or None,
            }
            for each in path.stops
        ],
        "explained": path.wrong is not None,
    }
