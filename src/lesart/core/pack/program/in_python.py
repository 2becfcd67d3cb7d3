"""A whole-number program as plain Python without an import, fit for small interpreters on boards as well.

It is also the model at the desk: the very text that is written is what computes here.
"""

from __future__ import annotations

import keyword
from collections.abc import Iterable, Iterator
from typing import Any

from lesart.core.pack.program.brackets import bare
from lesart.core.pack.program.statements import (
    Function,
    Keep,
    KeepAt,
    Kept,
    Leave,
    Let,
    Repeat,
    Statement,
    Stop,
    When,
)
from lesart.core.pack.program.whole import LONGEST_MS, TIMES, Table, Whole

INDENT = "    "
WIDE = 100
HELPERS = f"""\
def _quotient(a, b):
    # Cut toward zero, as a processor divides.
    return a // b if (a >= 0) == (b > 0) else -(-a // b)


def _elapsed(now, then):
    # Milliseconds, also over the end of a clock of 32 bits.
    return min((now - then) % {TIMES}, {LONGEST_MS})
"""
_SIGNS = {"+": "+", "-": "-", "*": "*", "<": "<", "<=": "<=", "==": "==", "and": "and", "or": "or", "|": "|", "&": "&"}


def _of(expression: Whole, here: set[str]) -> str:
    op, parts = expression.op, expression.parts
    if op == "constant":
        return str(parts[0]) if parts[0] >= 0 else f"({parts[0]})"
    if op == "local":
        return str(parts[0])
    if op == "kept":
        return f"self.{parts[0]}"
    if op == "item":
        return f"{parts[0] if parts[0] in here else f'self.{parts[0]}'}[{_of(parts[1], here)}]"
    if op == "at":
        return f"{parts[0].name.upper()}[{_of(parts[1], here)}]"
    if op == "down":
        return f"({_of(parts[0], here)} >> {parts[1]})"
    if op == "within":
        return _of(parts[0], here)
    given = [_of(each, here) for each in parts]
    if op == "pick":
        return f"({given[1]} if {given[0]} else {given[2]})"
    if op == "not":
        return f"(not {given[0]})"
    named = {"quotient": "_quotient", "least": "min", "most": "max", "since": "_elapsed"}
    if op in named:
        return f"{named[op]}({', '.join(given)})"
    return f"({given[0]} {_SIGNS[op]} {given[1]})"


def method_text(function: Function, name: str) -> str:
    """A method that returns (does a result pass on, outputs …)."""
    arguments = ", ".join(["self", *(each.parts[0] for each in function.inputs)])
    here = {each.name for each in function.kept if each.only_here}
    inputs = {each.parts[0] for each in function.inputs}
    body = [f"{each.parts[0]} = 0" for each in function.outputs if each.parts[0] not in inputs]
    body += [f"{each.name} = [0] * {each.length}" for each in function.kept if each.only_here]
    body += _statements(function, function.body, here)
    if not function.body or not isinstance(function.body[-1], Leave):
        body.append(_leave(function, True))
    head = [f"def {name}({arguments}):", f"{INDENT}# {function.place}: {function.says}"]
    return "\n".join([*head, *(INDENT + line for line in body)])


def _statements(function: Function, body: Iterable[Statement], here: set[str]) -> Iterator[str]:
    for each in body:
        match each:
            case Let():
                yield f"{each.name} = {bare(_of(each.value, here))}"
            case Keep():
                yield f"self.{each.name} = {bare(_of(each.value, here))}"
            case KeepAt():
                array = each.name if each.name in here else f"self.{each.name}"
                yield f"{array}[{bare(_of(each.index, here))}] = {bare(_of(each.value, here))}"
            case When():
                yield f"if {bare(_of(each.condition, here))}:"
                yield from (INDENT + line for line in (*_statements(function, each.then, here), *_pass(each.then)))
                if each.otherwise:
                    yield "else:"
                    yield from (INDENT + line for line in _statements(function, each.otherwise, here))
            case Repeat():
                yield f"for {each.name} in range({bare(_of(each.count, here))}):"
                yield from (INDENT + line for line in _statements(function, each.body, here))
            case Stop():
                yield "break"
            case Leave():
                yield _leave(function, each.passes)


def _pass(body: tuple[Statement, ...]) -> tuple[str, ...]:
    return () if body else ("pass",)


def _leave(function: Function, passes: bool) -> str:
    return f"return {', '.join([str(int(passes)), *(each.parts[0] for each in function.outputs)])}"


def class_text(name: str, says: str, methods: Iterable[tuple[str, Function]], kept: Iterable[Kept]) -> str:
    """A class whose instances hold the kept variables."""
    lines = [f"class {python_name(name)}:", f'{INDENT}"""{says}"""', "", f"{INDENT}def __init__(self):"]
    starts = [
        f"self.{each.name} = {f'[{each.start}] * {each.length}' if each.length else each.start}"
        for each in kept
        if not each.only_here
    ] or ["pass"]
    lines += [INDENT * 2 + each for each in starts]
    for called, function in methods:
        lines += ["", *(INDENT + line if line else "" for line in method_text(function, called).splitlines())]
    return "\n".join(lines)


def table_text(table: Table) -> str:
    """A table of constants."""
    rows, row = [], INDENT
    for value in table.values:
        piece = f"{value}, "
        if len(row) + len(piece) > WIDE:
            rows.append(row.rstrip())
            row = INDENT
        row += piece
    says = [f"# {table.says}"] if table.says else []
    return "\n".join([*says, f"{table.name.upper()} = (", *rows, row.rstrip(), ")"])


def python_name(name: str) -> str:
    """A name that is not a keyword of the language."""
    return f"{name}_" if keyword.iskeyword(name) or keyword.issoftkeyword(name) else name


def loaded(text: str) -> dict[str, Any]:
    """The definitions of such a module: compiled here from integer trees, with nothing but ``min``, ``max`` and
    ``range`` available."""
    space: dict[str, Any] = {
        "__builtins__": {"min": min, "max": max, "range": range, "__build_class__": __build_class__},
        "__name__": "lesart_pack",
    }
    exec(compile(text, "<pack>", "exec"), space)
    return space
