"""Readings from a line's edges, in C: pulses counted in a gate, widths and intervals, ticks of a timer, bits."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.block import Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.pack.program.plain import plain

COUNT, SPAN, BITS = "count", "span", "bits"
"""What edges give: a count, a time between them, or bits by pulse length."""


@dataclass(frozen=True)
class Spans:
    """A span from edge to edge: ``starts`` and ``ends`` are the levels after them.

    Outside ``least`` to ``most`` ticks a span is marked; ``wraps`` is a timer's period, 0 for none.
    """

    starts: int
    ends: int
    least: int
    most: int
    wraps: int = 0


@dataclass(frozen=True)
class BitPulses:
    """``count`` bits that follow ``skip`` pulses and a pause of ``start`` ticks; a pulse is a one above ``threshold``
    ticks, or above ``ratio``, a fraction of two integers, times the pause before it."""

    count: int
    start: int
    skip: int
    threshold: int
    ratio: tuple[int, int] | None
    longest: int


@dataclass(frozen=True)
class EdgesWanted:
    """``name`` is an identifier; times are in ticks of ``tick_ns``.

    A level counts once it has lasted ``shortest`` ticks, from its own edge on, or from the first one of its bouncing.
    ``counts`` is the level whose beginning is counted.
    """

    name: str
    title: str
    tick_ns: float
    shortest: int
    from_first: bool
    inverted: bool = False
    counts: int = 1
    gate: int = 0
    spans: Spans | None = None
    bits: BitPulses | None = None

    @property
    def does(self) -> str:
        """Which of the three kinds it is."""
        return SPAN if self.spans is not None else BITS if self.bits is not None else COUNT

    @property
    def bytes(self) -> int:
        """Bytes of a frame of bits."""
        return -(-self.bits.count // 8) if self.bits is not None else 0


def edges_header(wanted: EdgesWanted) -> str:
    """The state of a line and the functions that feed it."""
    own = {
        COUNT: ["    uint32_t border;", "    uint16_t count;", "    uint16_t next;"],
        SPAN: ["    uint32_t since;", "    uint32_t ticks;", "    uint8_t began;", "    uint8_t mark;"],
        BITS: [
            "    uint32_t rose;",
            "    uint32_t fell;",
            "    uint16_t place;",
            "    uint8_t mark;",
            f"    uint8_t bytes[{wanted.bytes}];",
        ],
    }[wanted.does]
    name = wanted.name
    lines = [
        f"/* {plain(wanted.title)}. Times are ticks of {wanted.tick_ns:g} ns; they may wrap. */",
        "typedef struct {",
        *(["    uint32_t edge;", "    uint8_t pending;"] if wanted.shortest else []),
        *(["    uint32_t first;"] if _bounces(wanted) else []),
        "    uint8_t level;",
        *own,
        f"}} {name}_line;",
        "",
        "/* Before the first edge: the level that the line has now. */",
        f"void {name}_begin({name}_line *s, uint8_t level, uint32_t now);",
    ]
    edge = f"{name}_edge({name}_line *s, uint8_t level, uint32_t now);"
    look = f"{name}_look({name}_line *s, uint32_t now);"
    if wanted.does == COUNT:
        lines += [
            "/* From the interrupt of the line, with its level behind the edge. */",
            f"void {edge}",
            "/* At the end of each gate, not sooner than the shortest pulse behind it: the edges before that end. */",
            f"#define {name.upper()}_GATE {wanted.gate}u",
            f"uint16_t {name}_gate({name}_line *s, uint32_t now);",
        ]
    else:
        what = (
            f"s->ticks and s->mark ({int(Mark.RANGE)}: out of range)"
            if wanted.does == SPAN
            else f"s->bytes and s->mark ({int(Mark.MISSING)}: a bit was too long)"
        )
        lines += [
            "/* From the interrupt of the line, with its level behind the edge. 1 where there is something new:",
            f" * {what}. */",
            f"uint8_t {edge}",
            "/* Now and then, where a last edge is not to wait for the next one. 1 as above. */",
            f"uint8_t {look}",
        ]
    return "\n".join(lines)


def edges_source(wanted: EdgesWanted, header: str) -> str:
    """The whole source."""
    parts = [f"/* {plain(wanted.title)}. Written by Lesart; change the project, not this. */", f'#include "{header}"']
    parts += [_begin(wanted), {COUNT: _counted, SPAN: _spanned, BITS: _bit}[wanted.does](wanted), _stands(wanted)]
    parts += [_gate(wanted)] if wanted.does == COUNT else []
    return "\n\n".join(parts) + "\n"


def _begin(wanted: EdgesWanted) -> str:
    level = "(uint8_t)!level" if wanted.inverted else "level"
    own = {
        COUNT: [f"s->border = now + {wanted.gate}u;", "s->count = 0;", "s->next = 0;"],
        SPAN: ["s->since = now;", "s->ticks = 0;", "s->began = 0;", "s->mark = 0;"],
        BITS: ["s->rose = now;", "s->fell = now;", "s->place = 0xFFFF;", "s->mark = 0;"],
    }[wanted.does]
    first = ["s->first = now;"] if _bounces(wanted) else []
    # Whatever came before, the first level has lasted.
    edge = [f"s->edge = now - {wanted.shortest}u;", *first, "s->pending = s->level;"] if wanted.shortest else []
    body = [f"s->level = {level};", *edge, *own]
    return _function(f"void {wanted.name}_begin({wanted.name}_line *s, uint8_t level, uint32_t now)", body)


def _bounces(wanted: EdgesWanted) -> bool:
    return wanted.from_first and wanted.shortest > 0


def _stands(wanted: EdgesWanted) -> str:
    """An edge counts once its level has lasted, as seen at the next edge or by polling."""
    name, counts = wanted.name, wanted.does == COUNT
    kind, given, nothing = ("void", "", "return;") if counts else ("uint8_t", "return ", "return 0;")
    keep, give = ("", "") if counts else ("uint8_t is_new = ", "return is_new;")
    level = ["level = (uint8_t)!level;"] if wanted.inverted else []
    if not wanted.shortest:
        look = ["(void)s;", "(void)now;", nothing]
        same = ["if (level == s->level) {", f"    {nothing}", "}"]
        edge = [*level, *same, "s->level = level;", f"{given}{name}_begins(s, now);"]
    else:
        stood = f"now - s->edge >= {wanted.shortest}u"
        at = "s->first" if wanted.from_first else "s->edge"
        look = [f"if (!({stood}) || s->pending == s->level) {{", f"    {nothing}", "}"]
        look += ["s->level = s->pending;", f"{given}{name}_begins(s, {at});"]
        # After a level that has lasted, an edge is the first of the next bouncing.
        first = [f"uint8_t stood = (uint8_t)({stood});"] if wanted.from_first else []
        edge = [*first, f"{keep}{name}_look(s, now);", *level]
        edge += ["if (stood) {", "    s->first = now;", "}"] if wanted.from_first else []
        edge += ["s->pending = level;", "s->edge = now;", *([give] if give else [])]
    static = "static " if counts else ""
    return "\n\n".join(
        (
            _function(f"{static}{kind} {name}_look({name}_line *s, uint32_t now)", look),
            _function(f"{kind} {name}_edge({name}_line *s, uint8_t level, uint32_t now)", edge),
        )
    )


def _function(head: str, body: Sequence[str]) -> str:
    return "\n".join([head, "{", *(f"    {line}" for line in body), "}"])


def _counted(wanted: EdgesWanted) -> str:
    return f"""\
/* A level begins that has stood. */
static void {wanted.name}_begins({wanted.name}_line *s, uint32_t at)
{{
    if (s->level != {wanted.counts}) {{
        return;
    }}
    if (at - s->border > 0x7FFFFFFFu) {{
        s->count++;
    }} else {{
        s->next++;
    }}
}}"""


def _gate(wanted: EdgesWanted) -> str:
    return f"""\
uint16_t {wanted.name}_gate({wanted.name}_line *s, uint32_t now)
{{
    uint16_t count;
    {wanted.name}_look(s, now);
    count = s->count;
    s->count = s->next;
    s->next = 0;
    s->border += {wanted.gate}u;
    return count;
}}"""


def _spanned(wanted: EdgesWanted) -> str:
    spans = wanted.spans
    assert spans is not None
    outside = []
    if spans.least > 0:
        outside.append(f"ticks < {spans.least}u")
    if spans.most < 2**32 - 1:
        outside.append(f"ticks > {spans.most}u")
    if spans.wraps:
        outside.append(f"ticks >= {spans.wraps}u")
    mark = f"(uint8_t)({' || '.join(outside)} ? {int(Mark.RANGE)} : 0)" if outside else "0"
    given = f"ticks & {spans.wraps - 1}u" if spans.wraps else "ticks"
    return f"""\
/* A level begins that has stood. */
static uint8_t {wanted.name}_begins({wanted.name}_line *s, uint32_t at)
{{
    uint8_t is_new = 0;
    if (s->level == {spans.ends} && s->began) {{
        uint32_t ticks = at - s->since;
        s->ticks = {given};
        s->mark = {mark};
        s->began = 0;
        is_new = 1;
    }}
    if (s->level == {spans.starts}) {{
        s->since = at;
        s->began = 1;
    }}
    return is_new;
}}"""


def _bit(wanted: EdgesWanted) -> str:
    bits = wanted.bits
    assert bits is not None
    if bits.ratio is None:
        one = f"length > {bits.threshold}u"
    else:
        many, few = bits.ratio
        one = f"(length > 0xFFFF ? 0xFFFFu : length) * {few}u > (rest > 0xFFFF ? 0xFFFFu : rest) * {many}u"
    before = f"s->place < {bits.skip} || " if bits.skip else ""
    return f"""\
/* A level begins that has stood: a pulse is over when the line falls. */
static uint8_t {wanted.name}_begins({wanted.name}_line *s, uint32_t at)
{{
    uint32_t rest, length;
    uint16_t bit;
    if (s->level) {{
        s->rose = at;
        return 0;
    }}
    rest = s->rose - s->fell;
    length = at - s->rose;
    s->fell = at;
    if (rest >= {bits.start}u) {{
        s->place = 0;
        s->mark = 0;
    }} else if (s->place < 0xFFFF) {{
        s->place++;
    }}
    if ({before}s->place >= {bits.skip + bits.count}) {{
        return 0;
    }}
    bit = (uint16_t)(s->place - {bits.skip});
    if (!(bit & 7)) {{
        s->bytes[bit >> 3] = 0;
    }}
    if ({one}) {{
        s->bytes[bit >> 3] = (uint8_t)(s->bytes[bit >> 3] | (0x80 >> (bit & 7)));
    }}
    if (length > {bits.longest}u) {{
        s->mark = {int(Mark.MISSING)};
    }}
    return bit == {bits.count - 1};
}}"""
