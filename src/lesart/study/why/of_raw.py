"""Suspects before any law: the position of a value in its frame, its column, the coding of its bits."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace

import numpy as np

from lesart.core.block import Floats
from lesart.core.notes import Key
from lesart.core.raw.messages.frames import FLOATS, SIGNS, FieldSpec, beginning
from lesart.core.raw.source import Decoding
from lesart.project.model import Channel, Project
from lesart.study.why.of_parameters import others_of, said_of
from lesart.study.why.suspect import OFTEN, RARE, USUAL, Suspect
from lesart.study.why.thread_model import NEVER, Change, ThreadModel
from lesart.study.why.truth import Truth

WORDS = (8, 12, 16, 24, 32)
WRAPS = (8, 10, 12, 16)
SHIFTS = (4, 6, 8, 1, 2, 3, 5)
"""Bits by which a count is shifted in its word: 12 in 16, 10 in 16, 24 in 32, then odd ones."""


def field_suspects(project: Project, channel: Channel) -> Iterator[Suspect]:
    """Suspects of a frame field, each a small change of its statement."""
    source = project.sources[channel.source]
    place = next((place for place, each in enumerate(source.fields) if each.name == channel.column), None)
    if place is None:
        return
    spec = source.fields[place]
    table: Key = ("sources", source.name, "fields", place)

    def suspect(name: str, title: str, has: object, value: str | int | float | bool, weight: float) -> Suspect:
        other = replace(spec, **{name: value})  # type: ignore[arg-type]
        said = {True: "yes", False: "no"}
        return Suspect(
            f"field {name}",
            f"{title} of field {spec.name}",
            said[has] if isinstance(has, bool) else str(has),
            said[value] if isinstance(value, bool) else f"{value:g}" if isinstance(value, float) else str(value),
            weight,
            lambda model: replace(model, spec=other),
            (*table, name),
            f"{value:g}" if isinstance(value, float) else value,
        )

    for sign in SIGNS:
        if sign != spec.sign:
            yield suspect("sign", "sign", spec.sign, sign, USUAL)
    whole = spec.bits % 8 == 0 and spec.bits > 8
    if whole:
        other = "low first" if spec.order == "high first" else "high first"
        yield suspect("order", "order of bytes", spec.order, other, USUAL)
    if whole and spec.bits % 16 == 0 and spec.bits > 16:
        yield suspect("word_swap", "words the other way round", spec.word_swap, not spec.word_swap, OFTEN)
        yield suspect("byte_swap", "bytes of words the other way round", spec.byte_swap, not spec.byte_swap, OFTEN)
    for step in (8, -8, 16, -16, 1, -1):
        if spec.first_bit + step >= 0:
            weight = OFTEN if abs(step) == 8 else RARE
            yield suspect("first_bit", "first bit", spec.first_bit, spec.first_bit + step, weight)
    if spec.floating or spec.bits in FLOATS:
        yield suspect("floating", "floating point", spec.floating, not spec.floating, OFTEN)
    for bits in (8, 10, 12, 16, 24, 32):
        if bits != spec.bits and not (spec.floating and bits not in FLOATS):
            yield suspect("bits", "bits", spec.bits, bits, RARE)
    yield suspect("tenths", "tenths in the second half", spec.tenths, not spec.tenths, OFTEN)
    for factor in (10.0, 0.1, 100.0, 0.01):
        scale = float(f"{spec.scale * factor:.12g}")
        yield suspect("scale", "scale", f"{spec.scale:g}", scale, OFTEN)


def decode_suspects(project: Project, channel: Channel) -> Iterator[Suspect]:
    """Suspects of decoding edges, each a small change of its statement."""
    source = project.sources[channel.source]
    decoding = source.decoding
    if decoding is None:
        return
    values = dict(decoding.values)
    spec = spec_of(project, channel)
    written = project.stated.get("sources", {}).get(source.name, {}).get("decode", {})
    for parameter in decoding.kind.parameters:
        value = values.get(parameter.name)
        if value is None or parameter.kind == "text":
            continue
        shown = written.get(parameter.name, parameter.default)
        for other in others_of(parameter, value, shown):

            def acquire(truth: Truth, name: str = parameter.name, found: object = other.value) -> float:
                return _decoded(decoding, {**values, name: found}, spec, channel.column, truth)

            yield Suspect(
                f"decode {parameter.name}",
                f"{parameter.title} of {decoding.kind.title}",
                said_of(shown),
                said_of(other.written),
                other.weight,
                lambda model, acquire=acquire: replace(model, acquire=acquire, spec=None),  # type: ignore[misc]
                ("sources", source.name, "decode", parameter.name),
                other.written,
            )


def _decoded(
    decoding: Decoding, values: Mapping[str, object], spec: FieldSpec | None, column: str, truth: Truth
) -> float:
    """The last value in the edges of a true value; NaN where there is none."""
    lines = {role: truth.lines[name] for role, name in decoding.lines if name in truth.lines}
    try:
        found = decoding.kind.decode(lines, dict(values))
    except NEVER:
        return float("nan")
    if spec is not None:
        frames = beginning(found.frames or (), decoding.begins)
        whole = [frame for frame in frames if frame.data and not frame.mark]
        number = spec.number(whole[-1].data) if whole else None
        return float("nan") if number is None else number
    block = found.columns.get(column)
    return float(block.x[-1]) if block is not None and len(block) else float("nan")


def column_suspects(channel: Channel, columns: Sequence[str]) -> Iterator[Suspect]:
    """Suspects of other columns of the source, neighbours first. A register that is off by one is one of them."""
    here = columns.index(channel.column) if channel.column in columns else -1
    for place, name in enumerate(columns):
        if place == here:
            continue
        near = here >= 0 and abs(place - here) == 1
        yield Suspect(
            "column",
            "the column",
            channel.column,
            name,
            OFTEN if near else RARE,
            lambda model, name=name: replace(model, column=name, spec=None),  # type: ignore[misc]
            channel.key("column"),
            name,
        )


def number_suspects(channel: Channel, truths: Sequence[Truth]) -> Iterator[Suspect]:
    """Suspects of how bits became the raw number; only for integers, such as counts and registers."""
    raws = [each.raw for each in truths]
    if not all(raw == raw and raw == round(raw) and abs(raw) < 2**32 for raw in raws):
        return

    def slip(says: str, weight: float, change: Change) -> Suspect:
        return Suspect("raw number", "the raw number", "", "", weight, _raw(change), says=says)

    if all(raw >= 0 for raw in raws):
        for bits in WORDS:
            if any(raw >= 1 << bits - 1 for raw in raws) and all(raw < 1 << bits for raw in raws):
                says = f"the raw number is signed, in {bits} bits, and was read without its sign"
                yield slip(says, USUAL, lambda x, bits=bits: np.where(x >= 2 ** (bits - 1), x - 2**bits, x))  # type: ignore[misc]
        if all(raw < 1 << 16 for raw in raws):
            yield slip("the two bytes of the raw number are in the wrong order", USUAL, _swapped)
        yield slip("the two words of the raw number are in the wrong order", OFTEN, _words_swapped)
    else:
        for bits in WORDS:
            says = f"the raw number has no sign, in {bits} bits, and was read with one"
            yield slip(says, USUAL, lambda x, bits=bits: np.where(x < 0, x + 2**bits, x))  # type: ignore[misc]
    for bits in SHIFTS:
        weight = OFTEN if bits in (4, 6, 8) else RARE
        says = f"the raw number sits {bits} {'bit' if bits == 1 else 'bits'} too high in its word"
        yield slip(says, weight, lambda x, bits=bits: np.floor(x / 2**bits))  # type: ignore[misc]
        low = says.replace("too high", "too low")
        yield slip(low, RARE, lambda x, bits=bits: x * 2**bits)  # type: ignore[misc]
    for bits in WRAPS:
        says = f"the raw number has gone round: it is {2**bits} more than what {bits} bits hold"
        yield slip(says, RARE, lambda x, bits=bits: x + 2**bits)  # type: ignore[misc]
    ends = _converter_end(channel)
    if ends:
        says = f"the raw number counts from the other end: it is {ends} minus what was read"
        yield slip(says, RARE, lambda x: ends - x)
    # A converter has counts without tenths; registers and frames often have tenths.
    weight = RARE - 1.0 if _is_converted(channel) else OFTEN
    for factor, noun in ((0.1, "tenths"), (0.01, "hundredths")):
        says = f"the raw number is in {noun}, and was taken as whole"
        yield slip(says, weight, lambda x, factor=factor: x * factor)  # type: ignore[misc]
    yield slip("the raw number is whole, and was taken as tenths", RARE, lambda x: x * 10.0)


def _raw(change: Change) -> Callable[[ThreadModel], ThreadModel]:
    def changed(model: ThreadModel) -> ThreadModel:
        return replace(model, raw_change=change)

    return changed


def _swapped(x: Floats) -> Floats:
    whole = np.nan_to_num(x).astype(np.int64)
    return np.asarray((whole & 0xFF) << 8 | (whole >> 8 & 0xFF), np.float64)


def _words_swapped(x: Floats) -> Floats:
    whole = np.nan_to_num(x).astype(np.int64)
    return np.asarray((whole & 0xFFFF) << 16 | (whole >> 16 & 0xFFFF), np.float64)


def _converter_end(channel: Channel) -> int:
    """The greatest count of a converter as first law; else 0."""
    first = channel.laws[0] if channel.laws else None
    if first is None or channel.unit_raw.symbol != "ct" or "bits" not in first.values:
        return 0
    return int((1 << int(first.values["bits"]) - int(bool(first.values.get("signed")))) - 1)


def _is_converted(channel: Channel) -> bool:
    """True where its first law is a converter of any kind."""
    return bool(channel.laws) and "bits" in channel.laws[0].values


def spec_of(project: Project, channel: Channel) -> FieldSpec | None:
    """The field of the channel's raw value in its frame; None where there is none."""
    source = project.sources[channel.source]
    return next((each for each in source.fields if each.name == channel.column), None)


def at_its_end(channel: Channel, truths: Sequence[Truth]) -> str:
    """A sentence on a saturated converter, which no statement of the project explains."""
    end = _converter_end(channel)
    first = channel.laws[0] if channel.laws else None
    low = -(end + 1) if first is not None and first.values.get("signed") else 0
    if not end or not truths:
        return ""
    if all(each.raw >= end for each in truths):
        return f"the converter is at its upper end, {end} ct: the sensor is open or shorted, or the input too high"
    if all(each.raw <= low for each in truths):
        return f"the converter is at its lower end, {low} ct: the sensor is open or shorted, or nothing is joined"
    return ""
