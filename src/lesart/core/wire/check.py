"""One check of the bring-up list, and the verdict on a measured value: right, or what it usually means."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import QuantityError, UnitError
from lesart.core.quantity import format_quantity, parse_quantity, plain_number
from lesart.core.units import parse_unit

YES, NO = "yes", "no"


@dataclass(frozen=True)
class Check:
    """One line of the list. ``lowest`` and ``highest`` are in ``unit``; a question for yes or no has no unit.

    ``means_low`` and ``means_high`` say what a wrong value usually is.
    """

    key: str
    does: str
    unit: str = ""
    lowest: float = 0.0
    highest: float = 0.0
    means_low: str = ""
    means_high: str = ""
    part: str = ""

    @property
    def expects(self) -> str:
        """The expected value, in a few words."""
        if not self.unit:
            return YES
        unit = parse_unit(self.unit)
        if self.highest == float("inf"):
            return f"{format_quantity(self.lowest, unit, 3)} or more"
        if self.lowest == float("-inf"):
            return f"{format_quantity(self.highest, unit, 3)} or less"
        return f"{plain_number(self.lowest, 3)} to {format_quantity(self.highest, unit, 3)}"


@dataclass(frozen=True)
class Judged:
    """The verdict on a measured value. ``says`` is what a wrong one usually means; empty where it is right."""

    good: bool
    says: str = ""
    value: float | None = None


def judge(check: Check, measured: str) -> Judged:
    """Judge a measured value. Raises QuantityError or UnitError where the text is not such a value."""
    text = measured.strip().lower()
    if not check.unit:
        if text not in (YES, NO):
            raise QuantityError(f'"{measured}" is not an answer here; it is yes or no.')
        return Judged(text == YES, "" if text == YES else check.means_low)
    unit = parse_unit(check.unit)
    value = parse_quantity(measured, unit).to(unit)
    if value < check.lowest:
        return Judged(False, check.means_low, value)
    if value > check.highest:
        return Judged(False, check.means_high, value)
    return Judged(True, "", value)


def is_answer(check: Check, measured: str) -> str:
    """Why a text is not a valid answer to a check; empty where it is."""
    try:
        judge(check, measured)
    except (QuantityError, UnitError) as error:
        return str(error).rstrip(".")
    return ""
