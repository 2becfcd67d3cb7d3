"""The middle of the screen, one folder a step, a module a leaf: evidence first, then values edited in place.

A step's modules are imported when it is first opened: the first reading waits only for those that show it.
"""

from __future__ import annotations

from lesart.core.step import Step
from lesart.desk.workspace.context import Context
from lesart.study.views import Workspace


def workspace_of(step: Step | None, context: Context) -> Workspace:
    """The workspace of an open step; None is the view of all channels."""
    # One import per step, spelt out, so that the import contracts see them.
    match step:
        case None:
            from lesart.desk.workspace.overview import build
        case Step.WIRE:
            from lesart.desk.workspace.wire.wire import build
        case Step.RAW:
            from lesart.desk.workspace.raw.raw import build
        case Step.LAW:
            from lesart.desk.workspace.law.law import build
        case Step.TRUE:
            from lesart.desk.workspace.true.true import build
        case Step.CALM:
            from lesart.desk.workspace.calm.calm import build
        case Step.FIT:
            from lesart.desk.workspace.fit.fit import build
        case Step.GLASS:
            from lesart.desk.workspace.glass.glass import build
        case Step.PACE:
            from lesart.desk.workspace.pace.pace import build
        case Step.PACK:
            from lesart.desk.workspace.pack.pack import build
    return build(context)
