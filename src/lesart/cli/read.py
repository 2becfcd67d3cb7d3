"""``lesart read``: the readings of a channel, as CSV or JSON."""

from __future__ import annotations

import argparse
import sys

import numpy as np

from lesart.cli.answer import number, print_json
from lesart.cli.project import channel_named, opened
from lesart.core.block import mark_word
from lesart.core.errors import RequestError
from lesart.core.step import Step
from lesart.study.bench import Bench

ROWS_AT_ONCE = 10_000


def run(options: argparse.Namespace) -> int:
    """Print time, value and mark of each sample; what has no value has an empty one."""
    folder, project = opened(options.project)
    channel = channel_named(project, options.channel, options.variant)
    block = Bench(folder).run(project, channel).blocks[options.step]
    start = -np.inf if options.start is None else options.start
    end = np.inf if options.end is None else options.end
    if start > end:
        raise RequestError(f"--from {start:g} is after --to {end:g}; it must be before.")
    part = block[int(np.searchsorted(block.t, start)) : int(np.searchsorted(block.t, end, side="right"))]
    unit = channel.unit_raw if options.step == Step.RAW else channel.unit
    rows = zip(part.t.tolist(), part.x.tolist(), part.mark.tolist(), strict=True)
    if options.json:
        readings = [{"t": t, "value": number(x), "mark": mark_word(mark)} for t, x, mark in rows]
        print_json({"channel": channel.name, "step": options.step, "unit": unit.symbol, "readings": readings})
        return 0
    name = f"{options.step}_{unit.symbol}".replace('"', "'")
    sys.stdout.write(f't_s,"{name}",mark\n')
    words = {mark: mark_word(mark) or "" for mark in np.unique(part.mark).tolist()}
    batch = []
    for t, x, mark in rows:
        batch.append(f"{t!r},{x!r},{words[mark]}\n" if x == x else f"{t!r},,{words[mark]}\n")
        if len(batch) == ROWS_AT_ONCE:
            sys.stdout.write("".join(batch))
            batch.clear()
    sys.stdout.write("".join(batch))
    return 0
