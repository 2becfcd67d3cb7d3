"""An integer program as C99: no library but the header of integer widths, every cast written out.

Values are as wide as their ranges need, so the same text is right where an ``int`` has sixteen bits and where it has
thirty-two. Nothing depends on the compiler: no shift of a negative number, no sum that could overflow its type.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

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
    statements_of,
)
from lesart.core.pack.program.whole import TIMES, Table, Whole

INDENT = "    "
WIDE = 100
HELPERS = """\
/* The floor of a / 2^n. A shift of a negative number is left to the compiler by the standard; this is not. */
static inline int16_t down16(int16_t a, uint8_t n) { return (int16_t)(a >= 0 ? a >> n : ~(~a >> n)); }
static inline int32_t down32(int32_t a, uint8_t n) { return a >= 0 ? a >> n : ~(~a >> n); }
static inline int64_t down64(int64_t a, uint8_t n) { return a >= 0 ? a >> n : ~(~a >> n); }
static inline int16_t least16(int16_t a, int16_t b) { return a < b ? a : b; }
static inline int32_t least32(int32_t a, int32_t b) { return a < b ? a : b; }
static inline int64_t least64(int64_t a, int64_t b) { return a < b ? a : b; }
static inline int16_t most16(int16_t a, int16_t b) { return a > b ? a : b; }
static inline int32_t most32(int32_t a, int32_t b) { return a > b ? a : b; }
static inline int64_t most64(int64_t a, int64_t b) { return a > b ? a : b; }
/* Milliseconds from one moment to a later one, over the end of the clock as well; 2^31 - 1 at most. */
static inline int32_t elapsed(uint32_t now, uint32_t then)
{
    uint32_t ms = now - then;
    return ms > 2147483647u ? 2147483647 : (int32_t)ms;
}
"""


def stored_type(low: int, high: int) -> str:
    """The smallest type that holds a range, for variables in memory.

    Unsigned only where necessary: a difference of two unsigned numbers is negative on one processor and huge on
    another.
    """
    if high == TIMES - 1 and low == 0:
        return "uint32_t"
    for bits in (8, 16, 32, 64):
        if low >= -(1 << bits - 1) and high < 1 << bits - 1 and (bits > 8 or low < 0):
            return f"int{bits}_t"
        if low >= 0 and high < 1 << bits:
            return f"uint{bits}_t"
    raise ValueError(f"{low} to {high} is wider than 64 bits")


def stored_bytes(low: int, high: int) -> int:
    """Bytes of ``stored_type``."""
    return int(stored_type(low, high).removeprefix("u").removeprefix("int").removesuffix("_t")) // 8


def _width(bits: int) -> int:
    return 16 if bits <= 16 else 32 if bits <= 32 else 64


def constant(value: int) -> str:
    """A literal; the least number of a width has none and becomes an expression."""
    if value in (-(1 << 15), -(1 << 31), -(1 << 63)):
        return f"({constant(value + 1)} - 1)"
    # Without a suffix a decimal number takes the first type that holds it, on any processor.
    return str(value) if value >= 0 else f"({value})"


class _Printed:
    """Prints the expressions of one function."""

    def __init__(self, function: Function) -> None:
        self._local_arrays = {each.name for each in function.kept if each.only_here}

    def of(self, expression: Whole) -> tuple[str, int]:
        """The text of an expression, and the width of its type."""
        op, parts = expression.op, expression.parts
        own = _width(expression.bits)
        if op == "constant":
            return constant(parts[0]), own
        if op == "local":
            return self._named(parts[0], expression)
        if op == "kept":
            return self._named(parts[0] if parts[0] in self._local_arrays else f"s->{parts[0]}", expression)
        if op == "item":
            array = parts[0] if parts[0] in self._local_arrays else f"s->{parts[0]}"
            return self._named(f"{array}[{self.of(parts[1])[0]}]", expression)
        if op == "at":
            return self._named(f"{parts[0].name}[{self.of(parts[1])[0]}]", expression, parts[0])
        if op == "since":
            return f"elapsed({self._moment(parts[0])}, {self._moment(parts[1])})", 32
        if op == "within":
            return self.of(parts[0])
        if op == "not":
            return f"(!{self.of(parts[0])[0]})", 16
        if op in ("and", "or"):
            sign = "&&" if op == "and" else "||"
            return f"({self.of(parts[0])[0]} {sign} {self.of(parts[1])[0]})", 16
        return self._worked(expression, own)

    def _worked(self, expression: Whole, own: int) -> tuple[str, int]:
        op = expression.op
        given = [self.of(each) for each in expression.parts if isinstance(each, Whole)]
        if op == "pick":
            width = max(own, given[1][1], given[2][1])
            return f"({given[0][0]} ? {self._as(given[1], width)} : {self._as(given[2], width)})", width
        width = max(own, *(each for _, each in given))
        if op == "down":
            text = f"down{width}({self._given(given[0], width)}, {expression.parts[1]})"
            return (f"(int{own}_t){text}", own) if own < width else (text, width)
        if op in ("least", "most"):
            return f"{op}{width}({self._given(given[0], width)}, {self._given(given[1], width)})", width
        sign = {"quotient": "/", "==": "=="}.get(op, op)
        text = f"({self._as(given[0], width)} {sign} {given[1][0]})"
        if op in ("<", "<=", "=="):
            return text, 16
        return (f"(int{own}_t){text}", own) if own < width and op == "quotient" else (text, width)

    @staticmethod
    def _named(text: str, expression: Whole, table: Table | None = None) -> tuple[str, int]:
        """A stored variable that is narrower or unsigned, cast to its working width."""
        width = _width(expression.bits)
        low, high = (expression.low, expression.high) if table is None else (table.low, table.high)
        stored = stored_type(low, high)
        return (f"(int{width}_t){text}" if width > 16 and stored != f"int{width}_t" else text), width

    @staticmethod
    def _as(given: tuple[str, int], width: int) -> str:
        text, own = given
        return f"(int{width}_t){text}" if own < width else text

    @classmethod
    def _given(cls, given: tuple[str, int], width: int) -> str:
        """An argument of a function, cast to its type."""
        text = cls._as(given, width)
        plain = text.isidentifier() or text.isdigit() or text.startswith(f"(int{width}_t)")
        return text if width > 16 or plain else f"(int16_t){text}"

    @staticmethod
    def _moment(part: Whole) -> str:
        return str(part.parts[0]) if part.op == "local" else f"s->{part.parts[0]}"


def signature(function: Function, state: str) -> str:
    """``uint8_t name(state *s, …)``: outputs behind pointers, 1 where a result passes on."""
    outputs = {each.parts[0] for each in function.outputs}
    arguments = [f"{state} *s"]
    arguments += [
        f"{stored_type(each.low, each.high)} {each.parts[0]}"
        for each in function.inputs
        if each.parts[0] not in outputs
    ]
    arguments += [f"{stored_type(each.low, each.high)} *{each.parts[0]}_out" for each in function.outputs]
    return f"uint8_t {function.name}({', '.join(arguments)})"


def function_text(function: Function, state: str) -> str:
    """The whole function with its description above it."""
    lines = [f"/* {function.place}: {function.says} */", signature(function, state), "{"]
    lines += [INDENT + each for each in _declared(function)]
    lines += [INDENT + each for each in _statements(function, function.body)]
    ends = function.body and isinstance(function.body[-1], Leave)
    lines += [] if ends else [INDENT + each for each in _leave(function, True)]
    return "\n".join([*lines, "}"])


def _declared(function: Function) -> Iterator[str]:
    inputs = {each.parts[0] for each in function.inputs}
    for output in function.outputs:
        name = output.parts[0]
        start = f"*{name}_out" if name in inputs else "0"
        yield f"{stored_type(output.low, output.high)} {name} = {start};"
    known = inputs | {each.parts[0] for each in function.outputs}
    ranges: dict[str, tuple[int, int]] = {}
    for each in statements_of(function.body):
        found = (each.name, each.value.low, each.value.high) if isinstance(each, Let) else None
        if isinstance(each, Repeat):
            found = (each.name, 0, each.count.high)
        if found is not None and found[0] not in known:
            low, high = ranges.get(found[0], found[1:])
            ranges[found[0]] = min(low, found[1]), max(high, found[2])
    for name, (low, high) in ranges.items():
        yield f"{stored_type(low, high)} {name};"
    for kept in function.kept:
        if kept.only_here:
            yield f"{stored_type(kept.low, kept.high)} {kept.name}[{kept.length}];"
    used = {part.parts[0] for each in function.wholes for part in each.walk() if part.op == "local"}
    uses_state = any(not kept.only_here and _uses(function, kept.name) for kept in function.kept)
    if not uses_state:
        yield "(void)s;"
    outputs = {each.parts[0] for each in function.outputs}
    for name in (each.parts[0] for each in function.inputs):
        if name not in used and name not in outputs:
            yield f"(void){name};"


def _uses(function: Function, name: str) -> bool:
    written = any(isinstance(each, Keep | KeepAt) and each.name == name for each in statements_of(function.body))
    return written or any(
        part.op in ("kept", "item") and part.parts[0] == name for each in function.wholes for part in each.walk()
    )


def _statements(function: Function, body: Iterable[Statement]) -> Iterator[str]:
    printed = _Printed(function)
    kept = {each.name: each for each in function.kept}
    for each in body:
        match each:
            case Let():
                yield f"{each.name} = {_stored(printed, each.value, _range_of(function, each))};"
            case Keep():
                value = kept[each.name]
                yield f"s->{each.name} = {_stored(printed, each.value, (value.low, value.high))};"
            case KeepAt():
                value = kept[each.name]
                array = each.name if value.only_here else f"s->{each.name}"
                stored = _stored(printed, each.value, (value.low, value.high))
                yield f"{array}[{printed.of(each.index)[0]}] = {stored};"
            case When():
                yield f"if ({bare(printed.of(each.condition)[0])}) {{"
                yield from (INDENT + line for line in _statements(function, each.then))
                if each.otherwise:
                    yield "} else {"
                    yield from (INDENT + line for line in _statements(function, each.otherwise))
                yield "}"
            case Repeat():
                yield f"for ({each.name} = 0; {each.name} < {printed.of(each.count)[0]}; {each.name}++) {{"
                yield from (INDENT + line for line in _statements(function, each.body))
                yield "}"
            case Stop():
                yield "break;"
            case Leave():
                yield from _leave(function, each.passes)


def _range_of(function: Function, let: Let) -> tuple[int, int]:
    """Range of the variable that a value is assigned to."""
    for each in (*function.outputs, *function.inputs):
        if each.parts[0] == let.name:
            return each.low, each.high
    values = [each.value for each in statements_of(function.body) if isinstance(each, Let) and each.name == let.name]
    return min(each.low for each in values), max(each.high for each in values)


def _stored(printed: _Printed, value: Whole, into: tuple[int, int]) -> str:
    if into == (0, TIMES - 1):
        return printed._moment(value)
    text, _ = printed.of(value)
    cast = f"({stored_type(*into)})"
    return bare(text) if value.op == "constant" else text if text.startswith(cast) else f"{cast}{text}"


def _leave(function: Function, passes: bool) -> Iterator[str]:
    for each in function.outputs:
        yield f"*{each.parts[0]}_out = {each.parts[0]};"
    yield f"return {int(passes)};"


def table_text(table: Table, qualifier: str = "static const") -> str:
    """A table of constants with its type."""
    head = f"{qualifier} {stored_type(table.low, table.high)} {table.name}[{len(table.values)}] = {{"
    return "\n".join([f"/* {table.says} */" if table.says else "", head, *_rows(table.values), "};"]).lstrip("\n")


def _rows(values: Iterable[int]) -> Iterator[str]:
    row = INDENT
    for value in values:
        piece = f"{constant(value)}, "
        if len(row) + len(piece) > WIDE:
            yield row.rstrip()
            row = INDENT
        row += piece
    if row.strip():
        yield row.rstrip()


def state_text(name: str, kept: Iterable[Kept]) -> str:
    """The struct of variables kept from sample to sample."""
    members = [
        f"{INDENT}{stored_type(each.low, each.high)} {each.name}{f'[{each.length}]' if each.length else ''};"
        for each in kept
        if not each.only_here
    ]
    members = members or [f"{INDENT}uint8_t nothing; /* the standard knows no empty struct */"]
    return "\n".join(["typedef struct {", *members, f"}} {name};"])


def start_text(name: str, state: str, kept: Iterable[Kept]) -> str:
    """The function that sets everything to its state before the first sample."""
    kept = [each for each in kept if not each.only_here]
    lines = [f"void {name}({state} *s)", "{"]
    if any(each.length for each in kept):
        lines.append(f"{INDENT}uint16_t i;")
    for each in kept:
        if each.length:
            lines.append(f"{INDENT}for (i = 0; i < {each.length}; i++) {{")
            lines += [f"{INDENT * 2}s->{each.name}[i] = {constant(each.start)};", f"{INDENT}}}"]
        else:
            lines.append(f"{INDENT}s->{each.name} = {constant(each.start)};")
    if not kept:
        lines.append(f"{INDENT}s->nothing = 0;")
    return "\n".join([*lines, "}"])
