"""A display that bytes may be meant for."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class KnownDisplay:
    """``panel`` and ``trace`` are tables as in the project file, without the capture; ``why`` is a clause."""

    panel: Mapping[str, Any]
    trace: Mapping[str, Any]
    sure: float
    why: str
