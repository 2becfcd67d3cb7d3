"""A reference: a known true value beside an averaged indication."""

from __future__ import annotations

from dataclasses import dataclass

from lesart.core.parameters import Parameter


@dataclass(frozen=True)
class Reference:
    """``true`` and ``indicated`` in the reading's unit, before any correction; ``count`` samples were averaged."""

    true: float
    indicated: float
    count: int = 1
    taken: str = ""
    used: bool = True


PARAMETERS = (
    Parameter("true", "true", "any quantity", "the known value, e.g. 10 kg"),
    Parameter("indicated", "indicated", "any quantity", "what Lesart showed before correction, e.g. 10.24 kg"),
    Parameter("count", "samples", "integer", "how many samples were averaged", 1, lowest=1),
    Parameter("taken", "taken", "text", "when, as a remark", ""),
    Parameter("used", "used", "flag", "false leaves it out of the fit without deleting it", True),
)
