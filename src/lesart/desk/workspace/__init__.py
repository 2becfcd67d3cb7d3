"""The middle of the screen, one folder a step, a module a leaf: evidence first, then values edited in place."""

from __future__ import annotations

from collections.abc import Callable

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

BUILDERS: dict[int, Callable[[Context], Workspace]] = {
    0: overview.build,
    1: wire.build,
    2: raw.build,
    3: law.build,
    4: true.build,
    5: calm.build,
    6: fit.build,
    7: glass.build,
    8: pace.build,
    9: pack.build,
}
