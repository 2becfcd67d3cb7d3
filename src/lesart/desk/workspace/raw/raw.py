"""Raw: the trace as it came, its marks, its timing."""

from __future__ import annotations

import numpy as np

from lesart.core.block import MARK_WORDS, Block
from lesart.core.notes import Key
from lesart.core.quantity import clock, grouped, rate_said
from lesart.core.ranked import quantiles
from lesart.core.raw.heard_registers import HEARD_REGISTER
from lesart.core.raw.messages.frames import FIELD
from lesart.core.raw.source import DECODE, FORMAT, OF_FORMAT, Source
from lesart.core.some_of import some_of
from lesart.core.step import Step
from lesart.desk.entries.raw import columns_of
from lesart.desk.workspace.context import (
    Context,
    label,
    number,
    robust_span,
    rows_of,
    text,
    trace,
    value,
    wrapped,
)
from lesart.desk.workspace.law.stack import is_unsaid, what_it_is
from lesart.desk.workspace.raw.lanes import frame_lines
from lesart.desk.workspace.raw.live import line_lines, state_lines
from lesart.project.captures.capture import Capture
from lesart.project.tables.sources import line_parameters
from lesart.study.views import Chart, Line, Series, Workspace

BAD_SHOWN = 4
BINS = 44
_BARS = " ▁▂▃▄▅▆▇█"
ADDS_TO_FRAMES = (
    "a value, like bytes 3 to 4 signed / 10 °C; what it is; or name = …, name < file, name < text line PORT: "
)
ADDS = "what it is, like a bridge of 5 kg; or name = column unit, name < file, name < text line PORT: "


def build(context: Context) -> Workspace:
    """Build the raw trace with marks, facts, bad rows by line, and how the file is read."""
    channel, project = context.channel, context.project
    source = project.sources[channel.source]
    # A rate applies only without a time column, a unit of time only with one.
    moot = ("rate",) if source.time else ("time_unit", "clock")
    told = [parameter for parameter in OF_FORMAT[source.format] if parameter.name not in moot]
    told = told if source.line is not None else [FORMAT, *told]
    settings = rows_of(project, ("sources", source.name), told, in_line=2, column=40)
    settings += _decoder_rows(context, source)
    column = (
        label("column "),
        value(project, ("channels", channel.name, "column")),
        label("   raw unit "),
        value(project, ("channels", channel.name, "raw_unit")),
        label("   no reading "),
        value(project, ("channels", channel.name, "no_reading")),
    )
    if context.run is None:
        lines: tuple[Line, ...] = (*wrapped(context.problem, "rubric"), (), column, *settings)
        lines = (*state_lines(context, source), *lines, *line_lines(context, source))
        return Workspace(Step.RAW, _subtitle(context, source), lines=lines, adds=ADDS)
    raw = context.run.blocks[Step.RAW]
    subtitle = f"{_subtitle(context, source)}, column {channel.column}"
    capture = context.bench.capture(source)
    evidence = frame_lines(context, capture)
    facts = (*_facts(context, raw), *_histogram(context, raw), *_found(capture), ())
    bad = () if source.name in context.bench.views else _bad_rows(context)
    columns = _columns(context, capture, source)
    lines = (
        *state_lines(context, source),
        *((*what_it_is(context), ()) if is_unsaid(context) else ()),
        *facts,
        *evidence,
        *bad,
        *line_lines(context, source),
        (),
        column,
        *columns,
        *settings,
    )
    adds = ADDS if capture.decoded is None or capture.decoded.frames is None else ADDS_TO_FRAMES
    return Workspace(Step.RAW, subtitle, chart=chart(context), lines=lines, adds=adds)


def _subtitle(context: Context, source: Source) -> str:
    """The file, or the line while listened to."""
    if source.name in context.bench.views and source.line is not None:
        return source.line.says
    return source.capture or "nothing recorded yet"


def _decoder_rows(context: Context, source: Source) -> list[Line]:
    """The decoder, and the position of the channel's value in a frame."""
    decoding = source.decoding
    if decoding is None:
        return []
    place: Key = ("sources", source.name, "decode")
    # For a check that is not a CRC only its kind, and which of its two bytes comes first.
    told_of = ("messages", "begins", "check", *(("low_first",) if decoding.check.length > 1 else ()))
    check = DECODE if decoding.check.crc else tuple(each for each in DECODE if each.name in told_of)
    told = (*line_parameters(decoding.kind), *decoding.kind.parameters, *(() if decoding.kind.gives_values else check))
    lines: list[Line] = [(), (text(decoding.kind.title, "ochre"), label(f"   {decoding.kind.says}"))]
    lines += rows_of(context.project, place, told, in_line=2, column=40)
    for index, spec in enumerate(source.fields):
        if spec.name == context.channel.column:
            lines.append((text(f"field {spec.name}", "ochre"),))
            lines += rows_of(context.project, ("sources", source.name, "fields", index), FIELD[1:], in_line=3)
    for index, each in enumerate(source.registers):
        if each.register.name == context.channel.column:
            lines.append((text(f"register {each.register.name}", "ochre"),))
            lines += rows_of(
                context.project, ("sources", source.name, "registers", index), HEARD_REGISTER[1:], in_line=3
            )
    return lines


def _found(capture: Capture) -> list[Line]:
    """What the decoder found itself."""
    decoded = capture.decoded
    if decoded is None:
        return []
    spans = [label("decoded ")]
    if decoded.frames is not None:
        broken = sum(bool(frame.mark) for frame in decoded.frames)
        spans += [text(grouped(str(len(decoded.frames)))), label(" frames   broken "), text(f"{broken}   ")]
    spans += [label("glitch edges "), text(grouped(str(decoded.removed)))]
    for name, figure in decoded.found.items():
        shown = f"{figure * 100:.0f} %" if "margin" in name else number(figure, "", 6)
        spans += [label(f"   {name} "), text(shown)]
    return [tuple(spans)]


def chart(context: Context) -> Chart | None:
    """The raw trace in view with its marked samples."""
    if context.run is None:
        return None
    raw, law = context.run.blocks[Step.RAW], context.run.blocks[Step.LAW]
    line = trace(context, raw, context.channel.name, "lapis")
    low, high = robust_span(context, raw, line)
    clipped = [min(max(y, low), high) for y in line.y]
    series = [Series(line.name, line.x, clipped, line.tone)]
    beyond = [(x, kept) for x, y, kept in zip(line.x, line.y, clipped, strict=True) if y != kept]
    if beyond:
        series.append(Series("off the scale", [x for x, _ in beyond], [y for _, y in beyond], "rubric", "points"))
    return Chart(
        title="raw",
        series=tuple(series),
        x_label="time",
        y_label=f"raw / {context.channel.unit_raw}",
        x_range=context.view,
        y_range=(low, high),
        cursor=context.state.cursor_s,
        bands=_bands(context, raw, law),
        time_axis=True,
    )


def _bands(context: Context, raw: Block, law: Block) -> tuple[tuple[str, list[float]], ...]:
    """Times of marked samples in view, by mark. Marks by the laws count here too: the raw value caused them."""
    law = law if len(law) == len(raw) else raw  # windows have marks of their own
    first, last = np.searchsorted(raw.t, context.view)
    bands = []
    for flag, word in MARK_WORDS.items():
        found = np.flatnonzero(law.mark[first:last] & np.uint8(flag)) + first
        if len(found):
            bands.append((word, raw.t[found].tolist()))
    return tuple(bands)


def _facts(context: Context, raw: Block) -> list[Line]:
    assert context.run is not None
    timing, facts = context.bench.timing(raw), context.bench.facts(raw)
    # The laws know a converter's ends and impossible values; the raw value caused them.
    law = context.run.blocks[Step.LAW]
    found = context.bench.facts(law if len(law) == len(raw) else raw).marked
    unit = context.channel.unit_raw.symbol
    marked = "   ".join(f"{grouped(str(count))} {word}" for word, count in found.items()) or "none"
    return [
        (
            label("samples "),
            text(grouped(str(timing.samples))),
            label("   rate "),
            text(rate_said(timing.rate_hz)),
            *((text(" assumed", "ochre"),) if context.project.assumes_rate(context.channel.source) else ()),
            label("   jitter "),
            text(number(_tidy(timing.jitter_s, timing.interval_s) * 1e3, "ms", 2)),
            label("   gaps "),
            text(str(timing.gaps)),
            label("   lasts "),
            text(clock(timing.duration_s)),
        ),
        (
            label("least "),
            text(number(facts.least, unit, 9), "lapis"),
            label("   greatest "),
            text(number(facts.greatest, unit, 9), "lapis"),
            label("   noise "),
            text(number(facts.noise, unit, 3), "lapis"),
        ),
        (label("marks "), text(marked), label(f"   {context.numerals(Step.RAW, channel=context.channel.name)}")),
    ]


def _histogram(context: Context, raw: Block) -> list[Line]:
    """A histogram of the values in view: missing codes, two levels, a converter's ends."""
    first, last = np.searchsorted(raw.t, context.view)
    what = ("histogram", int(first), int(last), context.channel.unit_raw.symbol)
    return context.bench.once_of(
        what, raw, compute=lambda: _how_often(context.channel.unit_raw.symbol, raw[int(first) : int(last) + 1])
    )


def _how_often(unit: str, block: Block) -> list[Line]:
    some = some_of(block)
    x = some.x[some.usable]
    if len(x) < 2 or x.min() == x.max():
        return []
    low, high = quantiles(x, (0.001, 0.999))
    if low == high:
        low, high = float(x.min()), float(x.max())
    # Values beyond the ends count at them: otherwise nothing would be left of two samples.
    counts, _ = np.histogram(np.clip(x, low, high), BINS, (low, high))
    bars = "".join(_BARS[int(np.ceil(count / counts.max() * (len(_BARS) - 1)))] for count in counts)
    return [(label("how often "), text(bars, "lapis"), label(f"  {number(low, '', 6)} to {number(high, unit, 6)}"))]


def _columns(context: Context, capture: Capture, source: Source) -> list[Line]:
    """Other columns of the capture."""
    found = columns_of(capture, source, context.project)
    if len(found) < 2:
        return []
    told = ", ".join(f"{column} ({reader})" if reader else column for column, reader in found)
    lines = wrapped(f"columns: {told}", "faint")
    return [*lines, (text("  + ", "ochre"), label("reads another one, or takes in another file"))]


def _tidy(jitter_s: float, interval_s: float) -> float:
    """Jitter, with anything below a millionth of the interval as 0: that is rounding in the file, not the clock."""
    return jitter_s if jitter_s > 1e-6 * interval_s else 0.0


def _bad_rows(context: Context) -> list[Line]:
    assert context.run is not None
    capture = context.bench.capture(context.project.sources[context.channel.source])
    bad, missing = capture.bad_in(context.channel.column), context.bench.facts(context.run.blocks[Step.RAW]).missing
    if not bad:
        return [(label("Nothing in the file is marked bad."),)]
    lines: list[Line] = [(label("rows that could not be believed"),)]
    for row in bad[:BAD_SHOWN]:
        lines.append((text(f"  {row.noun} {row.line:>{11 - len(row.noun)}}", "lapis"), label(f"   {row.why}")))
    more = max(missing, len(bad)) - BAD_SHOWN
    if more > 0:
        lines.append((label(f"  and {grouped(str(more))} more"),))
    return lines
