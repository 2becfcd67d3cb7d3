"""Which of these do you see? The pattern that separates most suspects, and what is left after an answer."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.bus.patterns import COUNTED, patterns_of, patterns_on, steps_of
from lesart.core.glass.panels.frame import Frame, PixelFrame
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.study.why.glass_suspect import GlassSuspect
from lesart.study.why.of_glass import glass_suspects

MOST = 9
"""Most looks shown at once, one per key; others are "none of these"."""
MOST_LARGE = 6
"""The same for pictures, which need more room."""
NONE = 0
MOVING = {
    "counting": (1234,),
    "running light": (5,),
    "each segment in turn": tuple(range(16)),
    "each digit in turn": (0,),
}
"""Informative steps of moving patterns; for any other the first."""
SKIPPED = ("all off",)
OF_COLOURS = ("all blue", "frame and corner")
"""Patterns that suffice for a colour panel, since each picture takes time."""
FACE, AT_HAND = "face ", 1.3


@dataclass(frozen=True, eq=False)
class Looks:
    """The looks of a panel by suspects, the likeliest first."""

    frame: Frame
    suspects: tuple[GlassSuspect, ...]

    @property
    def weight(self) -> float:
        """Total weight."""
        return sum(math.exp(each.weight) for each in self.suspects)


@dataclass(frozen=True, eq=False)
class Question:
    """``name`` is the pattern or the face, ``memory`` its content, ``looks`` the possible looks, the likeliest first: a
    limited number is shown, and ``others`` look different."""

    name: str
    memory: Memory
    looks: tuple[Looks, ...]
    others: tuple[GlassSuspect, ...]


def shown_memories(panel: Panel, faces: Mapping[str, Memory]) -> dict[str, Memory]:
    """Memories that can be shown: the present faces, and test patterns at informative steps."""
    return {f"{FACE}{name}": memory for name, memory in faces.items()} | _patterns_shown(panel)


@lru_cache(maxsize=8)
def _patterns_shown(panel: Panel) -> dict[str, Memory]:
    """The patterns, the same after each answer."""
    found = {}
    for name in patterns_of(panel):
        if name in SKIPPED or (panel.grid is not None and panel.grid.planes and name not in OF_COLOURS):
            continue
        for step in MOVING.get(name, (0,)):
            if step >= steps_of(panel, name) > 1 and name != COUNTED:
                continue
            said = f"{name}, step {step + 1}" if steps_of(panel, name) > 1 else name
            found[said] = patterns_on(panel)[name].at(step % steps_of(panel, name))
    return found


class Looked:
    """A cache of looks: each question is about what the previous one left."""

    def __init__(self) -> None:
        self._seen: dict[tuple[int, str], Frame | None] = {}

    def at(self, each: GlassSuspect, name: str, memory: Memory) -> Frame | None:
        """A picture; None where the number of bytes does not fit the panel."""
        key = id(each), name
        if key not in self._seen:
            try:
                self._seen[key] = each.look(memory)
            except ValueError:
                self._seen[key] = None
        return self._seen[key]


def looks_of(name: str, memory: Memory, suspects: Sequence[GlassSuspect], looked: Looked) -> tuple[Looks, ...]:
    """The possible looks of a memory, the likeliest first, without those that cannot be drawn."""
    groups: dict[Frame, list[GlassSuspect]] = {}
    for each in suspects:
        frame = looked.at(each, name, memory)
        if frame is not None:
            groups.setdefault(frame, []).append(each)
    looks = [Looks(frame, tuple(sorted(group, key=lambda each: -each.weight))) for frame, group in groups.items()]
    return tuple(sorted(looks, key=lambda each: -each.weight))


def told_apart(looks: Sequence[Looks]) -> float:
    """Bits of information of an answer, where a number of looks are shown and the rest is "none of these"."""
    most = most_of(looks)
    weights = [each.weight for each in looks[:most]]
    weights += [sum(each.weight for each in looks[most:])] if len(looks) > most else []
    total = sum(weights)
    return -sum(weight / total * math.log2(weight / total) for weight in weights if weight > 0) if total else 0.0


def most_of(looks: Sequence[Looks]) -> int:
    """Number of looks shown at once."""
    return MOST_LARGE if looks and isinstance(looks[0].frame, PixelFrame) else MOST


def question_of(name: str, memory: Memory, suspects: Sequence[GlassSuspect], looked: Looked) -> Question:
    """The question about a memory."""
    looks = looks_of(name, memory, suspects, looked)
    most = most_of(looks)
    others = tuple(each for look in looks[most:] for each in look.suspects)
    return Question(name, memory, looks[:most], others)


def best_question(memories: Mapping[str, Memory], suspects: Sequence[GlassSuspect], looked: Looked) -> Question | None:
    """The most informative question; None where nothing separates the suspects any more."""
    asked = {name: looks_of(name, memory, suspects, looked) for name, memory in memories.items()}
    telling = {name: told_apart(looks) for name, looks in asked.items() if len(looks) > 1}
    if not telling:
        return None
    # A face is on the bench already; a pattern has to be written first.
    name = max(telling, key=lambda each: telling[each] * (AT_HAND if each.startswith(FACE) else 1.0))
    return question_of(name, memories[name], suspects, looked)


def left_after(question: Question, pick: int) -> tuple[GlassSuspect, ...]:
    """The suspects left after an answer: a look by number from 1, or 0 for none of these."""
    return question.others if pick == NONE else question.looks[pick - 1].suspects


@dataclass(frozen=True, eq=False)
class Asked:
    """State of the questions: the next ``question``, None when finished; ``left`` are the suspects, the likeliest
    first; ``picked`` is the number of answers."""

    question: Question | None
    left: tuple[GlassSuspect, ...]
    picked: int


def asked_so_far(panel: Panel, faces: Mapping[str, Memory], picks: Sequence[int], first: str = "") -> Asked:
    """The same answers lead to the same question. ``first`` is a pattern that a person has on the panel already.

    Raises ValueError for a pick that was not shown, KeyError for a pattern that there is not.
    """
    memories = shown_memories(panel, faces)
    suspects: tuple[GlassSuspect, ...] = tuple(glass_suspects(panel))
    looked = Looked()
    question = (
        question_of(first, memories[first], suspects, looked) if first else best_question(memories, suspects, looked)
    )
    for count, pick in enumerate(picks):
        if question is None:
            break
        if not NONE <= pick <= len(question.looks):
            raise ValueError(f"of {len(question.looks)} looks there is no {pick}")
        suspects = left_after(question, pick)
        question = best_question(memories, suspects, looked) if suspects else None
        if question is None:
            return Asked(None, _likeliest(suspects), count + 1)
    return Asked(question, _likeliest(suspects), len(picks))


def _likeliest(suspects: Sequence[GlassSuspect]) -> tuple[GlassSuspect, ...]:
    return tuple(sorted(suspects, key=lambda each: -each.weight))
