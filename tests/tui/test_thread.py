"""The thread over the screen: nine steps side by side, whatever they say."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of
from lesart.study.views import Span
from lesart.tui.regions import thread_lines
from lesart.tui.theme import DARK

WORDS = (Step.WIRE, Step.CALM, Step.FIT, Step.GLASS, Step.PACE, Step.PACK)
"""Those with words in the lowest row, or with words behind them."""


@pytest.mark.parametrize("width", [110, 120, 160, 200])
def test_words_of_a_step_stand_apart_from_those_of_the_next(desk: Desk, width: int) -> None:
    """Details and what stands below them, cut with a mark where they are longer than a ninth of the width."""
    picture = picture_of(desk)
    long = tuple(replace(step, detail="d" * 60, miniature="m" * 60, value=Span("v" * 60)) for step in picture.thread)
    rows = thread_lines(DARK, replace(picture, thread=long), width)
    each = (width - 1) // 9
    _, values, details, below = ("".join(words for words, *_ in row) for row in rows[:4])
    assert len(values) == len(details) == len(below) == 9 * each + 1
    for place, step in enumerate(Step):
        last = 1 + place * each + each - 1
        assert details[last - 1 : last + 1] == "… "
        assert values[last - 1 : last + 1] == ("→ " if step is not Step.PACK else "  ")
        if step in WORDS:
            assert below[last - 1 : last + 1] == "… "
