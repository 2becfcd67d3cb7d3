"""Notes on sums: a result that no part has, a part with another value, a result that does not meet its aim."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from lesart.core.notes import DOUBT, REMARK, Mend, Note, Written
from lesart.core.parameters import Parameter
from lesart.core.quantity import listed
from lesart.core.step import Step
from lesart.core.wire.entry import shown
from lesart.core.wire.faults.finding import Finding
from lesart.core.wire.faults.proof import Find, mended
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.part import Part
from lesart.core.wire.sums.record import Sum, SumResult

SAME = 1e-6


def inspect_sums(sums: Iterable[Sum], hookup: Hookup, find: Find) -> Iterator[Note]:
    """At most two notes per sum: that its result does not work, and that its part has another value.

    A key takes a result into the hook-up only where that causes no new fault, as judged by ``find``.
    """
    for each in sums:
        result = each.result()
        if result.warning:
            yield Note(
                DOUBT, Step.WIRE, None, f"{each.name}: {result.warning}", part=each.part, place=("sums", each.name)
            )
        differing = differs(result, hookup.parts.get(each.part))
        if result.part and differing:
            mend = mends_of(each, result, hookup)
            is_mended = mend and not differs(result, mended(hookup, mend).parts.get(each.part))
            brings = _new_faults(hookup, mend, find) if is_mended else []
            remedy = (
                "write the result into the hook-up"
                if not brings
                else (
                    f"write the result into the hook-up, and see to what comes then: {brings[0].note.text}".rstrip(".")
                )
            )
            yield Note(
                REMARK,
                Step.WIRE,
                None,
                f"{each.name}: the sum makes {shown_part(result)}; {differing}.",
                part=each.part,
                remedy=remedy,
                mend=mend if is_mended and not brings else (),
                place=("sums", each.name),
            )


def _new_faults(hookup: Hookup, mend: tuple[Mend, ...], find: Find) -> list[Finding]:
    before = find(hookup)
    return [each for each in find(mended(hookup, mend)) if each.note.is_fault and not each.is_among(before)]


def differs(result: SumResult, part: Part | None) -> str:
    """A clause with what a part has instead of the result; empty where they agree or there is no result."""
    if not result.part:
        return ""
    if part is None:
        return "no part holds it yet"
    if part.kind.name != result.part["kind"]:
        return f"{part.name} is {part.kind.called}"
    others = [
        f"{parameter.title} {shown(part.value(parameter.name), parameter.unit)}"
        for parameter in part.kind.parameters
        if parameter.name in result.part and not _agree(parameter, part, result.part[parameter.name])
    ]
    return f"{part.name} has {listed(others)}" if others else ""


def _agree(parameter: Parameter, part: Part, wanted: Written) -> bool:
    value = float(parameter.read(wanted))
    return abs(part.value(parameter.name) - value) <= SAME * max(abs(value), 1e-15)


def shown_part(result: SumResult) -> str:
    """``a resistor of 10 kΩ, 0.25 W``."""
    values = ", ".join(str(value) for name, value in result.part.items() if name != "kind")
    return f"a {result.part['kind']} of {values}"


def mends_of(each: Sum, result: SumResult, hookup: Hookup) -> tuple[Mend, ...]:
    """The edits that write a result into its part: a new part, or values of the existing one."""
    part = hookup.parts.get(each.part)
    if part is None:
        return (Mend(("parts", each.part), dict(result.part)),)
    if part.kind.name != result.part["kind"]:
        return ()
    return tuple(
        Mend(("parts", each.part, parameter.name), result.part[parameter.name])
        for parameter in part.kind.parameters
        if parameter.name in result.part and not _agree(parameter, part, result.part[parameter.name])
    )
