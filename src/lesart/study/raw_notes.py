"""Notes on raw data: lost samples, jumping times, values that are not readings."""

from __future__ import annotations

from lesart.core.block import Block
from lesart.core.errors import LesartError
from lesart.core.law.over_time.totals import RISE, SUM
from lesart.core.notes import DOUBT, FAULT, REMARK, Note
from lesart.core.quantity import counted, counted_of, format_quantity, listed, plain_number
from lesart.core.raw.codes import Coded, inspect_codes, inspect_empty_frames
from lesart.core.raw.decode.record import NARROW, Decoded, least_margin
from lesart.core.raw.source import Source
from lesart.core.step import Step
from lesart.project.assumed import mend_of
from lesart.project.captures.capture import Capture
from lesart.project.facts.tolerances import counts_pulses
from lesart.project.model import Channel, Project
from lesart.project.new.source import found_source
from lesart.study.bench import Bench
from lesart.study.run import Run

WORST_DROPPED = 0.01
"""Above this share of unusable samples it is a doubt, not a remark."""
AT_WILL = 0.25
"""Intervals that typically differ from the median by more than this share are events, not a clock with gaps."""


def raw_notes(project: Project, channel: Channel, run: Run, bench: Bench) -> list[Note]:
    """Notes on raw data: marks, times, and values that are not readings."""
    raw, capture = run.blocks[Step.RAW], bench.capture(project.sources[channel.source])
    notes: list[Note] = []
    if bench.is_gone(project.sources[channel.source]):
        said = f"{channel.name}: {capture.name} is gone; what was read of it is still shown."
        notes.append(Note(FAULT, Step.RAW, channel.name, said, remedy="put the file back, or name another"))
    if _speaks_for(project, channel):
        notes += _assumed_rate(project, channel, bench)
        notes += [_said(channel, sentence) for sentence in capture.said]
    if not len(raw):
        return [*notes, *_nothing_came(project, channel, capture, bench)]
    if _speaks_for(project, channel) and capture.decoded is not None:
        notes += _narrow_bits(channel, capture.decoded)
        notes += inspect_empty_frames(channel.name, capture.decoded.frames or ())
    notes += [*_marked(channel, raw, capture, bench), *_timed(channel, raw, capture, bench)]
    seen = _coded(project, channel, raw)
    what = ("codes", seen.name, seen.unit, seen.is_counts, seen.bits, seen.key, seen.no_reading)
    return [*notes, *bench.once_of(what, raw, compute=lambda: inspect_codes(seen))]


def _marked(channel: Channel, raw: Block, capture: Capture, bench: Bench) -> list[Note]:
    """A note on the number of bad samples, and the first of them."""
    lost = int((~raw.usable).sum())
    if not lost:
        return []
    kinds = ", ".join(f"{count} {word}" for word, count in bench.facts(raw).marked.items())
    bad = capture.bad_in(channel.column)
    first = f" {bad[0].noun.capitalize()} {bad[0].line}: {bad[0].why}." if bad else ""
    if channel.no_reading and not bad:
        values = [format_quantity(value, channel.unit_raw, 9) for value in channel.no_reading]
        first = f" {listed(values)} {'stands' if len(values) == 1 else 'stand'} for no reading."
    return [
        Note(
            FAULT if lost == len(raw) else DOUBT if lost / len(raw) > WORST_DROPPED else REMARK,
            Step.RAW,
            channel.name,
            f"{channel.name}: {counted_of(lost, len(raw), 'sample')} "
            f"{'is' if lost == 1 else 'are'} marked ({kinds}).{first}",
            figure=float(lost),
            unit="samples",
            limit=WORST_DROPPED * len(raw),
        )
    ]


def _timed(channel: Channel, raw: Block, capture: Capture, bench: Bench) -> list[Note]:
    """Notes on times that run backwards, and on gaps."""
    timing, notes = bench.timing(raw), []
    if capture.steps_back:
        notes.append(
            Note(
                DOUBT,
                Step.RAW,
                channel.name,
                f"{channel.name}: {counted(capture.steps_back, 'time stamp' if capture.lines else 'row')} "
                f"{'has' if capture.steps_back == 1 else 'have'} a time before that of one above.",
                figure=float(capture.steps_back),
                remedy="check the logger's clock",
            )
        )
    if timing.gaps:
        longest = plain_number(timing.longest_gap_s, 3)
        said = f"{channel.name}: {counted(timing.gaps, 'gap')} in time, the longest {longest} s."
        if timing.jitter_s > AT_WILL * timing.interval_s:
            usual = plain_number(timing.interval_s, 3)
            said = f"{channel.name}: samples come at no fixed rate, usually {usual} s apart, at most {longest} s."
        notes.append(
            Note(
                REMARK,
                Step.RAW,
                channel.name,
                said,
                figure=timing.longest_gap_s,
                unit="s",
            )
        )
    return notes


def _said(channel: Channel, sentence: str) -> Note:
    """Notes on how the file was read, where that is not literal."""
    return Note(REMARK, Step.RAW, channel.name, f"{channel.name}: {sentence}.")


def _assumed_rate(project: Project, channel: Channel, bench: Bench) -> list[Note]:
    """A note on unknown times: everything in seconds depends on a rate that nobody has stated."""
    if not project.assumes_rate(channel.source):
        return []
    source, key = project.sources[channel.source], ("sources", channel.source, "rate")
    rate = f"{plain_number(source.rate_hz, 6)} Hz"
    unread = _unread_time(bench, source)
    why = f"; {unread}" if unread else ""
    return [
        Note(
            DOUBT,
            Step.RAW,
            channel.name,
            f"{channel.name}: no column of {source.capture.rpartition('/')[2]} is known to be a time, so {rate} is "
            f"assumed: rates, lags and filters in seconds depend on it{why}.",
            figure=source.rate_hz,
            unit="Hz",
            remedy="type the rate, or name the time column and how it is written",
            m_does="takes it as it is",
            mend=(mend_of(project.assumed, key),),
            place=key,
        )
    ]


def _unread_time(bench: Bench, source: Source) -> str:
    """The column that looks like a time, and why it was not taken; empty for none."""
    path = bench.folder / source.capture
    try:
        there = path.stat()
        what = ("unread time", str(path), there.st_mtime_ns, there.st_size)
        return bench.once_known(what, lambda: found_source(path, source.capture).time.unread)
    except (OSError, LesartError):
        return ""  # problems of the file are reported elsewhere


def _coded(project: Project, channel: Channel, raw: Block) -> Coded:
    """The raw values with the width of counts, where the first law or the frame field states it."""
    is_counts = channel.unit_raw.symbol == "ct" and not counts_pulses(project, channel)
    first = channel.laws[0] if channel.laws else None
    fields = project.sources[channel.source].fields
    spec = next((each for each in fields if each.name == channel.column), None)
    bits, key = spec.bits if spec is not None else 0, None
    if first is not None and "bits" in first.values:
        bits, key = int(first.values["bits"]), (*channel.key("law"), 0, "bits")
    none_key = ("channels", channel.name, "no_reading")
    if first is not None and first.kind.name == RISE.name:
        # Such a counter wraps; high and low counts are not negative numbers.
        is_counts, bits = False, 0
    elif not bits and any(law.kind.name == SUM.name for law in channel.laws):
        # Amounts are summed: each tip of a gauge is 1, and nothing is frozen.
        is_counts = False
    return Coded(channel.name, raw, channel.unit_raw, is_counts, bits, key, channel.no_reading, none_key)


def _nothing_came(project: Project, channel: Channel, capture: Capture, bench: Bench) -> list[Note]:
    """A note on a capture without a single sample. A line may be about to send its first."""
    if channel.source in bench.views:
        return []
    decoding = project.sources[channel.source].decoding
    what = "no sample" if decoding is None else "no frame" if not decoding.kind.gives_values else "no value"
    where = capture.name if decoding is None else f"{capture.name}, read as {decoding.kind.name}"
    looked = "rows in 2 Raw" if decoding is None else "edges in 2 Raw, and what the decoder allows"
    return [
        Note(
            FAULT,
            Step.RAW,
            channel.name,
            f"{channel.name}: {what} comes out of {where}.",
            remedy=f"check its {looked}",
        )
    ]


def _speaks_for(project: Project, channel: Channel) -> bool:
    """True for the first channel of a source, which gets the notes for all of them."""
    return channel.name == next((each.name for each in project.channels.values() if each.source == channel.source), "")


def _narrow_bits(channel: Channel, decoded: Decoded) -> list[Note]:
    margin = least_margin(decoded)
    if margin is None or margin >= NARROW:
        return []
    percent = round(100 * margin, 1)
    return [
        Note(
            DOUBT,
            Step.RAW,
            channel.name,
            f"{channel.name}: a 0 was told from a 1 with a margin of only {plain_number(percent)} %; a little more "
            "jitter makes one of the other.",
            figure=percent,
            unit="%",
            limit=100 * NARROW,
            remedy="put the decoder's limit in the middle between short and long bits",
        )
    ]
