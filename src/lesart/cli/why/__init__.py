"""``lesart why``: from a wrong number, glass or time, or from nothing at all, to the one mistake that explains it."""

from __future__ import annotations

import argparse

from lesart.core.errors import RequestError


def run(options: argparse.Namespace) -> int:
    """Do whichever of these is asked for."""
    from lesart.cli.project import channel_named, opened
    from lesart.study.whole_bench import bench_at

    folder, project = opened(options.project)
    bench, name = bench_at(folder), options.channel
    if options.time is not None:
        from lesart.cli.why import time

        return time.run(folder, project, bench, options.time, as_json=options.json)
    if name is None:
        known = ", ".join((*project.channels, *project.panels))
        raise RequestError(f"Say which channel, panel or part is wrong, or --time; there are {known}.")
    if name not in project.channels and name in project.panels:
        from lesart.cli.why import glass

        return glass.run(options, folder, project.panels[name])
    is_part = name not in project.channels and name in project.hookup.parts
    if options.nothing or is_part:
        from lesart.cli.why import nothing

        channel = None if is_part else channel_named(project, name, options.variant)
        return nothing.run(project, bench, channel, name if is_part else "", as_json=options.json)
    from lesart.cli.why import number

    return number.run(folder, project, bench, options)
