"""One setting of a panel that may be different, and how it would look."""

from __future__ import annotations

from collections.abc import Callable

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.panel import Memory
from lesart.core.notes import Key, Written

Look = Callable[[Memory], Frame]


@dataclass(frozen=True, eq=False)
class GlassSuspect:
    """``says`` what is different, in a clause; ``look`` gives the look of a memory then.

    ``edits`` make the project match the panel; without any the firmware has to be mended, and ``remedy`` says how.
    """

    says: str
    weight: float
    look: Look
    edits: tuple[tuple[Key, Written], ...] = ()
    remedy: str = ""
