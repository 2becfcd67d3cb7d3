"""Edges taken apart by the C of a pack, held against the desk's decoders over the yard's traces and random bounces."""

from __future__ import annotations

import random
import subprocess
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.pack.written.c_edges import BITS, COUNT, EdgesWanted, edges_source
from lesart.core.pack.written.files import edges_head
from lesart.core.raw.edges import HIGH, Edges
from lesart.core.raw.source import Decoding, Source
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.study.bench import Bench
from lesart.study.packing.edges import edges_of
from tests.core.pack.programs import CHECKED, STRICT
from tests.small import make_small

MICRO = 1e-6

MAIN = """
#include "edges.h"
#include <stdio.h>
static const uint64_t times[] = {{ {times} }};
static const uint8_t levels[] = {{ {levels} }};
static {name}_line line;
int main(void)
{{
    unsigned place = 0, gate;
    (void)gate;
    {name}_begin(&line, {first}, {start}u);
    {loop}
    return 0;
}}
"""
EACH = """
    for (; place < {count}; place++) {{
        if ({name}_edge(&line, levels[place], (uint32_t)times[place])) {{ {tell} }}
    }}
    if ({name}_look(&line, {end}u)) {{ {tell} }}
"""
GATES = """
    for (gate = 1; gate <= {gates}; gate++) {{
        while (place < {count} && times[place] - {start}u < gate * {ticks}ull + {late}u) {{
            {name}_edge(&line, levels[place], (uint32_t)times[place]);
            place++;
        }}
        printf("%u\\n", (unsigned){name}_gate(&line, (uint32_t)({start}u + gate * {ticks}ull + {late}u)));
    }}
"""


def told(wanted: EdgesWanted, edges: Edges, folder: Path) -> list[str]:
    """What the C prints for edges, a line for each value. The clock wraps on the way."""
    tick_s = wanted.tick_ns * 1e-9
    start = 2**32 - 1000
    times = start + np.rint((edges.t - edges.start_s) / tick_s).astype(np.int64)
    end = (start + round((edges.end_s - edges.start_s) / tick_s)) % 2**32
    levels = (edges.level == HIGH).astype(int)
    more = {"name": wanted.name, "count": len(edges), "start": start, "end": end}
    if wanted.does == COUNT:
        gates = int((edges.end_s - edges.start_s) / tick_s / wanted.gate * (1 + 1e-12))
        loop = GATES.format(**more, gates=gates, ticks=wanted.gate, late=wanted.shortest)
    else:
        shown = f'for (gate = 0; gate < {wanted.bytes}; gate++) printf("%02X", line.bytes[gate]); printf(" ");'
        span = 'printf("%lu ", (unsigned long)line.ticks);'
        loop = EACH.format(
            **more, tell=(shown if wanted.does == BITS else span) + 'printf("%u\\n", (unsigned)line.mark);'
        )
    (folder / "edges.h").write_text(edges_head("edges", [wanted]))
    (folder / "edges.c").write_text(edges_source(wanted, "edges.h"))
    (folder / "main.c").write_text(
        MAIN.format(
            name=wanted.name,
            times=", ".join(f"{each}ull" for each in times.tolist()),
            levels=", ".join(map(str, levels.tolist())),
            first=int(edges.first == HIGH),
            start=start,
            loop=loop,
        )
    )
    subprocess.run(["gcc", *STRICT, *CHECKED, "-c", "edges.c"], cwd=folder, check=True)
    subprocess.run(["gcc", *CHECKED, "main.c", "edges.o", "-o", "told"], cwd=folder, check=True)
    return subprocess.run(["./told"], cwd=folder, check=True, capture_output=True, text=True).stdout.splitlines()


def decoded(wanted: EdgesWanted, edges: Edges, decoding: Decoding) -> list[str]:
    """The same from the desk."""
    found = decoding.kind.decode({"line": edges}, dict(decoding.values))
    if wanted.does == BITS:
        whole = [each for each in found.frames if len(each.data) == wanted.bytes and "came" not in each.why]
        return [f"{each.data.hex().upper()} {each.mark}" for each in whole]
    block = next(iter(found.columns.values()))
    if wanted.does == COUNT:
        return [f"{round(x)}" for x in block.x.tolist()]
    ticks = block.x if found.units.get("ticks") == "ct" else block.x / (wanted.tick_ns * 1e-9)
    return [f"{round(x)} {mark}" for x, mark in zip(ticks.tolist(), block.mark.tolist(), strict=True)]


@pytest.mark.parametrize("name", ["beam", "cups", "bucket", "tank", "yard air"])
def test_the_traces_of_the_yard(name: str, yard_once: Path, tmp_path: Path) -> None:
    project, bench = check_project(read_text(yard_once / FILE)), Bench(yard_once)
    wanted = next(each for each in edges_of(project, bench) if each.title.startswith(f"{name}, "))
    source = project.sources[name]
    assert source.decoding is not None
    edges = bench.capture(source).lines[dict(source.decoding.lines)["line"]]
    ours, theirs = told(wanted, edges, tmp_path), decoded(wanted, edges, source.decoding)
    assert ours == theirs
    assert len(ours) >= 10


def bouncing(chance: random.Random) -> Edges:
    """A line with clean pulses, bounces, and pulses too short to count, all on whole microseconds."""
    t, level, moments, levels = 100, 0, [], []
    for _ in range(600):
        t += chance.choice((3, 5, 8, 20, 47, 49, 70, 120, 300, 900, 70_000))
        level ^= 1
        moments.append(t * MICRO)
        levels.append(level)
    return Edges(np.array(moments), np.array(levels, np.uint8), 0, 0.0, (t + 500) * MICRO)


OF_KINDS: dict[str, list[dict[str, Any]]] = {
    "gate count": [{"gate": 0.1}, {"gate": 0.01, "edge": "falling", "shortest": 10 * MICRO}],
    "pulse width": [
        {},
        {"level": "low", "least": 20.5 * MICRO, "most": 1e-3, "shortest": 6 * MICRO},
        {"shortest": 6 * MICRO, "dated": "first edge"},
    ],
    "pulse interval": [{}, {"edge": "falling", "most": 1e-2, "shortest": 10 * MICRO}],
    "timer ticks": [{"of": "high", "bits": 8}, {"of": "falling to falling", "shortest": 6 * MICRO}, {"of": "low"}],
    "bits by length": [
        {"bits": 8, "skip": 1},
        {"bits": 12, "skip": 0, "by": "low time", "ratio": 0.5, "level": "low", "longest": 0.3},
    ],
}


@pytest.mark.parametrize(("kind", "values"), [(kind, each) for kind, all_ in OF_KINDS.items() for each in all_])
def test_random_bounces(kind: str, values: dict[str, Any], tmp_path: Path) -> None:
    make_small(tmp_path)
    text = "\n".join(f"{key} = {written(value)}" for key, value in values.items())
    found = check_project(
        (tmp_path / FILE).read_text()
        + f'\n[sources.line]\ncapture = "line.vcd"\nformat = "vcd"\n[sources.line.decode]\nkind = "{kind}"\n'
        + f'line = "x"\n{text}\n'
    )
    decoding = found.sources["line"].decoding
    assert decoding is not None
    wanted = edges_of(found, Bench(tmp_path))[0]
    edges = bouncing(random.Random(f"{kind} {values}"))
    ours, theirs = told(wanted, edges, tmp_path), decoded(wanted, edges, decoding)
    assert ours == theirs
    assert len(ours) >= 5


def written(value: object) -> str:
    """A time as the project file has it."""
    return (
        f'"{value:.9g} s"'
        if isinstance(value, float) and value < 0.4
        else f'"{value}"'
        if isinstance(value, str)
        else f"{value}"
    )


def test_sources_of_other_kinds_are_left_to_the_person(yard_once: Path) -> None:
    project = check_project(read_text(yard_once / FILE))
    told_by = {each.title.split(", ")[0] for each in edges_of(project, Bench(yard_once))}
    assert told_by == {"beam", "cups", "bucket", "tank", "yard air"}
    other = replace(project, sources={"x": Source("x", "x.csv")})
    assert edges_of(other, Bench(yard_once)) == ()
