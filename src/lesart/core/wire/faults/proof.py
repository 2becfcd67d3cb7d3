"""A remedy is proven before a key applies it: with its edits made, the finding is gone and nothing new is wrong.

A way that looks right at one place can be wrong at another: a board's input joined to its own output, a sensor moved to
where nothing reads it. No list of such cases is ever complete, so each way is tried on the hook-up itself.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace

from lesart.core.notes import REMARK, Mend, Note
from lesart.core.parameters import read_table
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.entry import JOINS
from lesart.core.wire.faults.finding import Finding, Way
from lesart.core.wire.hookup import End, Hookup, Join
from lesart.core.wire.part import Part, parse_address

Find = Callable[[Hookup], Sequence[Finding]]


def proven_note(finding: Finding, hookup: Hookup, found: Sequence[Finding], find: Find) -> Note:
    """The note with the first way that mends it and causes nothing new, else one that causes no new fault; with its own
    remedy and no edits where there is none."""
    second: Way | None = None
    for way in finding.ways():
        after = find(mended(hookup, way.mend))
        if any(finding.is_same_as(each) for each in after):
            continue
        new = [each for each in after if each.note.mark != REMARK and not each.is_among(found)]
        if not new:
            return replace(finding.note, remedy=way.remedy, mend=way.mend)
        if second is None and not any(each.note.is_fault for each in new):
            second = way
    return finding.note if second is None else replace(finding.note, remedy=second.remedy, mend=second.mend)


def mended(hookup: Hookup, mends: Iterable[Mend]) -> Hookup:
    """The hook-up with the edits of a remedy."""
    parts, joins = dict(hookup.parts), {join.index: join for join in hookup.joins}
    for mend in mends:
        match mend.key, mend.value:
            case ("parts", str(name)), Mapping():
                parts[name] = _part(name, mend.value)
            case ("parts", str(name), "address"), written:
                parts[name] = replace(parts[name], address=parse_address(str(written)))
            case ("parts", str(name), str(key)), written:
                parts[name] = _with_value(parts[name], key, written)
            case ("wire", "joins"), Mapping():
                index = max(joins, default=-1) + 1
                entry = {key: str(value) for key, value in mend.value.items()}
                joins[index] = Join(
                    _end(entry["pin"]), _end(entry["to"]), entry.get("through", ""), entry.get("colour", ""), index
                )
            case ("wire", "joins", int(index), "pin"), written:
                joins[index] = replace(joins[index], pin=_end(str(written)))
            case ("wire", "joins", int(index), "to"), written:
                joins[index] = replace(joins[index], to=_end(str(written)))
            case ("wire", "joins", int(index), "through"), written:
                joins[index] = replace(joins[index], through=str(written))
            case _:
                raise AssertionError(f"no edit of a hook-up: {mend}")
    return Hookup(parts, tuple(joins.values()))


def _part(name: str, table: Mapping[str, object]) -> Part:
    """A new part, from the catalogue, since remedies bring no kinds of one's own."""
    kind = KINDS[str(table["kind"])]
    values, problems = read_table(kind.parameters, table, f"parts.{name}", also=("kind",))
    assert not problems, problems
    return Part(name, kind, values)


def _with_value(part: Part, key: str, written: object) -> Part:
    parameter = next(each for each in part.kind.parameters if each.name == key)
    return replace(part, values={**part.values, key: parameter.read(written)})


def _end(written: str) -> End:
    name, _, pin = written.rpartition(".")
    return End(name, pin)


def through(joins: Iterable[Join], name: str) -> tuple[Mend, ...]:
    """The edits that lead joins through a part, or directly where its name is empty."""
    return tuple(Mend((*JOINS, join.index, "through"), name) for join in joins)
