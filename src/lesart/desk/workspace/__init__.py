"""The middle of the screen, one folder a step, a module a leaf: evidence first, then values edited in place."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.step import Step
from lesart.desk.workspace import overview
from lesart.desk.workspace.calm import calm
from lesart.desk.workspace.context import Context
from lesart.desk.workspace.fit import fit
from lesart.desk.workspace.glass import glass
from lesart.desk.workspace.law import law
from lesart.desk.workspace.pace import pace
from lesart.desk.workspace.pack import pack
from lesart.desk.workspace.raw import raw
from lesart.desk.workspace.true import true
from lesart.desk.workspace.wire import wire
from lesart.study.views import Workspace

BUILDERS: dict[Step | None, Callable[[Context], Workspace]] = {
    None: overview.build,
    Step.WIRE: wire.build,
    Step.RAW: raw.build,
    Step.LAW: law.build,
    Step.TRUE: true.build,
    Step.CALM: calm.build,
    Step.FIT: fit.build,
    Step.GLASS: glass.build,
    Step.PACE: pace.build,
    Step.PACK: pack.build,
}
