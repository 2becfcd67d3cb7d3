"""The middle of the screen, one module a step, named as the step: evidence first, then values edited in place."""

from __future__ import annotations

from collections.abc import Callable

from lesart.desk.workspace import calm, fit, glass, law, overview, pace, pack, raw, true, wire
from lesart.desk.workspace.context import Context
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
