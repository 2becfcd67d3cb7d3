"""``lesart glass``: a panel as lit, its bytes sent over time, its items placed by rules."""

from __future__ import annotations

import argparse

from lesart.core.errors import RequestError


def run(options: argparse.Namespace) -> int:
    """Do whichever of these is asked for."""
    from lesart.desk.opening import look_at

    desk = look_at(options.project)
    panels = desk.state.project.panels
    name = options.panel or next(iter(panels), "")
    if name not in panels:
        raise RequestError(f'panel "{name}" is not in the project, which has {", ".join(panels) or "none"}.')
    if options.arrange or options.refit is not None:
        from lesart.cli.glass.placed import place

        return place(options, desk, name)
    if options.to is not None:
        from lesart.cli.glass.sent import send

        return send(options, desk, name)
    from lesart.cli.glass.lit import show

    return show(options, desk, panels[name])
