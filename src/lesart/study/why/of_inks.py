"""What may be wrong where paper with a third ink shows something else: its two memories, or how it is built in."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from lesart.core.glass.panels.colour_set_up import ColourSetUp
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.pixel_panel import TURNS
from lesart.core.notes import Key
from lesart.study.why.glass_suspect import GlassSuspect, Look
from lesart.study.why.suspect import OFTEN, RARE, USUAL


def ink_suspects(panel: InkPanel) -> Iterator[GlassSuspect]:
    """Suspects in what its memories mean first, then in what reaches them, and in how it is built in."""
    key: Key = ("panels", panel.name)
    yield GlassSuspect(
        f"a {int(panel.third_low)} in its second memory is {panel.third}, not a {int(not panel.third_low)}",
        OFTEN,
        _as_shown_by(panel, replace(panel, third_low=not panel.third_low)),
        (((*key, "third_low"), not panel.third_low),),
    )
    yield GlassSuspect(
        "its first memory is sent the other way round, so black is white",
        OFTEN,
        _with_halves(panel, first=_opposite),
        (),
        "send a 1 where it is white to its first memory",
    )
    yield GlassSuspect(
        f"only its first memory is written, and nothing of it is {panel.third}",
        OFTEN,
        _with_halves(panel, second=lambda half: (b"\xff" if panel.third_low else b"\0") * len(half)),
        (),
        "send its second memory too, behind a command of its own",
    )
    yield GlassSuspect(
        "its first memory is never written, and stays white",
        USUAL,
        _with_halves(panel, first=lambda half: b"\xff" * len(half)),
        (),
        "send its first memory before the second",
    )
    yield GlassSuspect(
        "its two memories are swapped",
        USUAL,
        lambda memory: panel.shown(b"".join(_halves(panel, memory)[::-1])),
        (),
        f"send what is white to its first memory, and what is {panel.third} to the second",
    )
    yield GlassSuspect(
        "the bits of a byte come the other way round",
        USUAL,
        _with_halves(panel, _mirrored_bytes, _mirrored_bytes),
        (),
        "send the leftmost of eight pixels in the highest bit",
    )
    for says, told, remedy in (
        ("it is mirrored", {"right_left": True}, "let its columns count the other way: the lowest bit behind 11"),
        ("its rows come from the bottom up", {"bottom_up": True}, "let its rows count on: the bit 2 behind 11"),
    ):
        seen_so = replace(panel, told=ColourSetUp(**told))
        yield GlassSuspect(says, USUAL, _as_seen_by(panel, seen_so), (), remedy)
    quarters = {number: name for name, number in TURNS.items()}
    for more, weight in ((2, OFTEN), (1, USUAL), (3, USUAL)):
        turns = (panel.turns + more) % len(TURNS)
        if more != 2 and panel.width != panel.height:
            continue
        seen_by = replace(panel, turns=turns)
        says = "it is upside down" if more == 2 else f"it is turned {'clockwise' if more == 1 else 'counterclockwise'}"
        yield GlassSuspect(says, weight, _as_shown_by(panel, seen_by), (((*key, "turned"), quarters[turns]),))
    yield GlassSuspect(
        "nothing is written, or it was never told to change",
        RARE,
        lambda memory: panel.lit(panel.blank()),
        (),
        "check its reset, its line for commands and its supply; it changes behind 22 F7 and 20, and is busy then",
    )


def _as_shown_by(panel: InkPanel, other: InkPanel) -> Look:
    """What is sent to it as it stands, on a panel that is different."""
    return lambda memory: other.shown(panel.sent(panel.lit(memory)))


def _as_seen_by(panel: InkPanel, other: InkPanel) -> Look:
    return lambda memory: other.seen(panel.lit(memory))


def _mirrored_bytes(half: bytes) -> bytes:
    return bytes(int(f"{byte:08b}"[::-1], 2) for byte in half)


def _halves(panel: InkPanel, memory: Memory) -> tuple[bytes, bytes]:
    data = panel.sent(panel.lit(memory))
    return data[: len(data) // 2], data[len(data) // 2 :]


def _opposite(half: bytes) -> bytes:
    return bytes(byte ^ 0xFF for byte in half)


def _same(half: bytes) -> bytes:
    return half


def _with_halves(
    panel: InkPanel, first: Callable[[bytes], bytes] = _same, second: Callable[[bytes], bytes] = _same
) -> Look:
    """How it looks where its memories hold something else."""

    def look(memory: Memory) -> Frame:
        one, other = _halves(panel, memory)
        return panel.shown(first(one) + second(other))

    return look
