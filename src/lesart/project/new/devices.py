"""Devices in a talk: by their addresses, and values by the register or command that asks for them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import field
from typing import Any, TypeVar

from lesart.core.dataclass_later import dataclass
from lesart.core.raw.decode.four_wire import LONGEST_ASKED
from lesart.core.raw.messages.frames import ByteFrame
from lesart.project.captures.traces.can_read import identifier_of, identifier_said
from lesart.project.new.words import Field, check_of, check_said, words_in

MOST_OF_A_DEVICE = 4
"""Most registers that become sources of their own."""
ONE_DEVICE, THIS_DEVICE = 0xCC, 0x55
"""One-wire commands after a reset: the only device, or the one whose eight bytes follow."""
SERIAL = 8

Key = TypeVar("Key")


@dataclass(frozen=True)
class Way:
    """A source that reads part of a talk: its name, empty for the default, further values for the decoder, and
    fields."""

    name: str
    decode: Mapping[str, Any] = field(default_factory=dict)
    fields: tuple[Field, ...] = ()


MOST_IDENTIFIERS = 12
REMOTE: tuple[Field, ...] = (
    {"name": "command", "first_bit": 16, "bits": 8},
    {"name": "device", "first_bit": 0, "bits": 8},
)
"""Fields of a remote control's four bytes: the key, and the address; the others repeat these inverted."""
ANSWERED = "after "
"""The beginning of ``says`` for an answer on four wires."""
MOST_ASKED = 16
"""Most distinct requests to a device; with more they are data sent to it."""


def ways_in(kind: str, frames: Sequence[ByteFrame], *, has_display: bool) -> Iterator[Way]:
    """Sources of a talk whose frames hold bytes, except those for displays."""
    whole = [frame for frame in frames if frame.data and not frame.mark]
    if kind == "two-wire bus":
        found = list(_registers(whole))
        yield from found
        if found:
            return
    elif kind == "one-wire bus":
        found = list(_commands(whole))
        yield from found
        if found:
            return
    elif kind == "infrared by distance" and whole:
        yield Way("", {}, REMOTE)
        return
    elif whole and all(frame.says.startswith(ANSWERED) for frame in whole):
        yield from _answers(whole)
        return
    if whole and not has_display:
        yield _way("", {}, [frame.data for frame in whole])


def by_identifier(frames: Sequence[ByteFrame]) -> tuple[Way, ...]:
    """For frames of a CAN bus, which begin with their identifier: a source for each one whose bytes change."""
    groups = _grouped(frames, lambda frame: identifier_of(frame.data))
    changing = {begins: data for begins, data in sorted(groups.items()) if len(set(data)) > 1}
    return tuple(
        _way(f"id {identifier_said(begins)}", {"begins": begins.hex(" ").upper()}, _behind(begins, data), first=0)
        for begins, data in list(changing.items())[:MOST_IDENTIFIERS]
    )


def _way(
    name: str, decode: Mapping[str, Any], frames: Sequence[bytes], *, first: int | None = None, low_first: bool = False
) -> Way:
    """A source with the check at the end of its frames, and the words before that, from a byte on."""
    check, head = _checked(frames, can_begin="begins" not in decode)
    length = check_said(check).length
    bare = [frame[: len(frame) - length] for frame in frames]
    fields = words_in(bare, first=first, low_first=low_first, has_sign=low_first)
    if head:
        # Fields are counted from after the bytes that a frame begins with.
        check["begins"] = head.hex(" ").upper()
        moved = tuple({**each, "first_bit": each["first_bit"] - 8 * len(head)} for each in fields)
        fields = tuple(each for each in moved if each["first_bit"] >= 0)
        fields = fields or words_in([frame[len(head) :] for frame in bare], low_first=low_first)
    return Way(name, {**decode, **check}, fields)


def equal_frames(frames: Sequence[bytes]) -> Way:
    """The source for a dump of frames of one length with unknown content."""
    way = _way("", {}, frames)
    fields = tuple(
        {**each, "assumed": ", ".join(filter(None, ("first_bit, bits", each.get("assumed", ""))))}
        for each in way.fields
    )
    return Way("", way.decode, ({**fields[0], "name": "value"},) if len(fields) == 1 else fields)


def _checked(frames: Sequence[bytes], *, can_begin: bool) -> tuple[dict[str, Any], bytes]:
    """The check of frames, and the bytes at their beginning that it excludes: a byte or two common to all."""
    if check := check_of(frames):
        return check, b""
    for length in (1, 2) if can_begin and frames else ():
        head = frames[0][:length]
        if all(frame.startswith(head) and len(frame) > length for frame in frames) and (
            check := check_of([frame[length:] for frame in frames])
        ):
            return check, head
    return {}, b""


def _grouped(frames: Sequence[ByteFrame], key: Callable[[ByteFrame], Key | None]) -> dict[Key, list[bytes]]:
    groups: dict[Key, list[bytes]] = {}
    for frame in frames:
        if (found := key(frame)) is not None:
            groups.setdefault(found, []).append(frame.data)
    return groups


def _that_change(groups: Mapping[Key, list[bytes]]) -> dict[Key, list[bytes]]:
    """Frames whose bytes change, as a measurement's do and an ID's do not; all of them where none do."""
    changing = {key: data for key, data in groups.items() if len(set(data)) > 1}
    return dict(list((changing or groups).items())[:MOST_OF_A_DEVICE])


def _registers(frames: Sequence[ByteFrame]) -> Iterator[Way]:
    """For each address that is read, each register whose bytes change."""
    read = [frame for frame in frames if frame.says.startswith("read 0x")]
    for address in sorted({frame.says.split()[1] for frame in read}):
        groups = _grouped(
            [frame for frame in read if frame.says.split()[1] == address],
            lambda frame: frame.says.partition(" after ")[2],
        )
        kept = _that_change(groups)
        for register, data in kept.items():
            decode = {"address": address, "transfers": "reads"}
            decode |= {"after": register} if len(groups) > 1 and register else {}
            name = f"{address} {register.removeprefix('0x')}" if len(kept) > 1 and register else address
            yield _way(name, decode, data)


def _answers(frames: Sequence[ByteFrame]) -> Iterator[Way]:
    """For four wires with requests and answers: each request whose answers change."""
    asked = {frame: bytes.fromhex(frame.says.removeprefix(f"{ANSWERED}0x")) for frame in frames}
    kinds = [len({each[:length] for each in asked.values()}) for length in range(LONGEST_ASKED + 1)]
    # As much of it as makes them distinct, at least a byte; the rest may be anything.
    length = next((place for place in range(1, len(kinds)) if kinds[place] == min(kinds[-1], MOST_ASKED)), 1)
    groups = _grouped(frames, lambda frame: asked[frame][:length])
    kept = _that_change(groups)
    # During the request it has nothing to answer yet.
    first = int(len({data[0] for frames in groups.values() for data in frames}) == 1)
    for told, data in kept.items():
        decode = {"after": f"0x{told.hex().upper()}"} if len(groups) > 1 else {}
        yield _way(f"wires {told.hex().upper()}" if len(kept) > 1 else "", decode, data, first=first)


def _commands(frames: Sequence[ByteFrame]) -> Iterator[Way]:
    """For each device, each command that it answers with bytes, words low byte first."""
    groups = {begins: data for begins, data in _grouped(frames, _told).items() if any(map(len, _behind(begins, data)))}
    kept = _that_change(groups)
    devices = sorted({begins[1 : 1 + SERIAL] for begins in kept if begins[0] == THIS_DEVICE})
    for begins, data in kept.items():
        number = 1 + devices.index(begins[1 : 1 + SERIAL]) if begins[0] == THIS_DEVICE else 0
        name = f"one wire {number}" if len(devices) > 1 and number else ""
        yield _way(name, {"begins": begins.hex(" ").upper()}, _behind(begins, data), low_first=True)


def _told(frame: ByteFrame) -> bytes | None:
    """The device that a frame begins with, and its command; None for anything else, such as a search."""
    length = {ONE_DEVICE: 2, THIS_DEVICE: 2 + SERIAL}.get(frame.data[0], 0)
    return frame.data[:length] if length and len(frame.data) >= length else None


def _behind(begins: bytes, frames: Sequence[bytes]) -> list[bytes]:
    return [frame[len(begins) :] for frame in frames]
