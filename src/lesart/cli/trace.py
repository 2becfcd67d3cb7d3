"""``lesart trace``: the lines of a panel as a logic trace, to compare with a real one."""

from __future__ import annotations

import argparse

from lesart.cli.printed.exported import before_work, write_out
from lesart.cli.project import opened
from lesart.core.errors import RequestError
from lesart.core.pace.trace import is_scanned
from lesart.project.captures.traces.vcd_write import fine_tick_s, vcd_text
from lesart.study.whole_bench import bench_at
from lesart.study.wires.model_traces import bus_trace, digits_trace

MOST = 1000


def run(options: argparse.Namespace) -> int:
    """Write it and print its content."""
    folder, project = opened(options.project)
    if options.panel not in project.panels:
        known = ", ".join(project.panels) or "none"
        raise RequestError(f'panel "{options.panel}" is not in the project, which has {known}.')
    if not 1 <= options.drawings <= MOST:
        raise RequestError(f"--drawings {options.drawings}: it must be from 1 to {MOST}.")
    before_work(options, folder)
    panel, bench = project.panels[options.panel], bench_at(folder)
    faces = project.faces_on(options.panel)
    every_s = 1.0 / faces[0].redraw_hz if faces else 1.0
    if is_scanned(panel):
        lines = digits_trace(project, bench, options.panel, options.at, options.drawings * every_s)
    else:
        moments = [options.at + place * every_s for place in range(options.drawings)]
        lines = bus_trace(project, bench, options.panel, moments)
    write_out(options, vcd_text(lines, fine_tick_s(lines), "model"), folder)
    print(f"Written: {options.output}, with {', '.join(lines)}.")
    return 0
