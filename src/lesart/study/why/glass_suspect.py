"""One thing of a panel's set-up that may be otherwise, and what is seen then."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.panel import Memory
from lesart.core.notes import Key, Written

Look = Callable[[Memory], Frame]


@dataclass(frozen=True, eq=False)
class GlassSuspect:
    """``says`` what is otherwise, in a clause; ``look`` is what is seen of a memory then. ``edits`` make the project as
    the panel is; where there are none the firmware has to be mended, and ``remedy`` says how."""

    says: str
    weight: float
    look: Look
    edits: tuple[tuple[Key, Written], ...] = ()
    remedy: str = ""
