"""A line that has said more than is kept to look at: what was computed of it goes on all the same."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.block import Block
from lesart.core.law.over_time.inspect import inspect_begun
from lesart.core.raw.lines.received import Received
from lesart.core.step import Step
from lesart.live.buffer import Buffer
from lesart.project.captures.capture import Capture
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.lines import LiveView
from lesart.study.run import run_links

HEAD = """
lesart = 1
name = "tank"

[sources.line]
capture = "captures/none.csv"

[channels.flow]
source = "line"
column = "x"
raw_unit = "L/min"
"""
LITRES = """
unit = "L"
lowest = "0 L"
highest = "9000 L"

[[channels.flow.law]]
kind = "total over time"
unit = "L/min"
begin = "0 L"
every = "700 s"
"""
SMOOTHED = """
unit = "L/min"
lowest = "0 L/min"
highest = "100 L/min"
"""
MEAN = """
[[channels.flow.calm]]
kind = "mean"
samples = 8
"""
THINNED = (
    """
[[channels.flow.calm]]
kind = "decimate"
n = 3
"""
    + MEAN
)
LEVEL = (
    SMOOTHED
    + """
[[channels.flow.law]]
kind = "windowed peak"
unit = "L/min"
window = "2 s"
steady_part = "counted"
"""
)


def seen(project: Project, gone: int, columns: dict[str, Block]) -> dict[str, LiveView]:
    """The line as it is looked at."""
    state: Any = None
    capture = Capture("line", columns["x"].t, columns, (), 0, 0)
    return {"line": LiveView(project.sources["line"], state, gone, capture, True)}


@pytest.mark.parametrize("told", [LITRES, LITRES + MEAN, LITRES + THINNED, SMOOTHED + MEAN, SMOOTHED + THINNED, LEVEL])
def test_it_goes_on_where_the_older_half_went(told: str) -> None:
    """Looked at now and then while 5000 rows come and 1000 are kept: to the bit what one run over all of them gives."""
    project = check_project(HEAD + told)
    channel = project.channels["flow"]
    bench, buffer, random = Bench(Path()), Buffer(most_rows=1000), np.random.default_rng(4)
    x = random.uniform(0, 90, 5000)
    t = np.cumsum(random.uniform(0.1, 0.4, 5000))
    came = 0
    while came < len(x):
        count = int(random.integers(1, 180))
        part = slice(came, came + count)
        rows = tuple((float(value),) for value in x[part])
        buffer.append(Received(("x",), tuple(t[part].tolist()), rows, (0,) * len(rows)))
        came += count
        bench.hear(seen(project, *buffer.view()))
        made = bench.run(project, channel)
    whole = Block(t, x, np.zeros(5000, np.uint8))
    for step in (Step.LAW, Step.TRUE, Step.CALM):
        own = tuple(link for link in channel.chain.links if link.step is step)
        whole = run_links(own, whole, {}) if own else whole
        kept = made.blocks[step]
        assert 150 < len(kept) <= 1000 or told == LEVEL
        assert len(kept) > 50
        assert kept.t.tobytes() == whole.t[-len(kept) :].tobytes()
        assert kept.x.tobytes() == whole.x[-len(kept) :].tobytes()
        assert kept.t[0] >= made.blocks[Step.RAW].t[0]


def test_a_total_that_is_edited_says_what_it_does_not_count() -> None:
    """It begins anew with what is kept; one that was there before goes on and counts all, and what is no total says
    nothing."""
    project = check_project(HEAD + LITRES)
    edited = check_project(HEAD + LITRES.replace("700 s", "900 s"))
    smoothed = check_project(HEAD + SMOOTHED + MEAN)
    bench, x = Bench(Path()), np.full(900, 60.0)

    def hear(gone: int, count: int) -> None:
        block = Block(np.arange(gone, gone + count) / 1.0, x[:count], np.zeros(count, np.uint8))
        bench.hear(seen(project, gone, {"x": block}))

    def told(project: Project) -> list[str]:
        channel = project.channels["flow"]
        run = bench.run(project, channel)
        return [note.text for note in inspect_begun("flow", channel.key("law"), channel.chain, run.lost)]

    hear(0, 400)
    assert told(project) == told(smoothed) == []
    hear(100, 400)
    assert told(project) == []
    gone = "flow: its total begins with the samples that are still kept; 100 samples before them are gone."
    assert told(edited) == [gone]
    assert told(smoothed) == []
    hear(200, 400)
    assert (told(project), told(edited)) == ([], [gone])
    last = [bench.run(each, each.channels["flow"]).blocks[Step.LAW].x[-1] for each in (project, edited)]
    assert last == pytest.approx([599.0, 499.0])  # 60 L/min is a litre a second
