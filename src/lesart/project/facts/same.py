"""Comparing a fact that is stated again with its home."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.project.model import Home


def differs(parameter: Parameter, written: object, home: Home) -> bool:
    """True where the two differ as the parameter reads them; numbers within the home's tolerance are the same."""
    try:
        stated, own = parameter.read(written), parameter.read(home.written)
    except ValueError:
        return False
    if isinstance(stated, Quantity) and isinstance(own, Quantity):
        stated, own = float(stated.value * stated.unit.scale), float(own.value * own.unit.scale)
    if isinstance(stated, bool | str) or isinstance(own, bool | str):
        return bool(stated != own)
    within: float = home.within * abs(float(own)) * (1 + 1e-9)
    return abs(float(stated) - float(own)) > within


def is_same(parameter: Parameter, written: object, home: Home) -> bool:
    """True where a value stated again is the home's: then it moves with it, tolerance included.

    The tolerance may be the same, or missing at the home.
    """
    off, own = _off(parameter, written), _off(parameter, home.written)
    return is_as_large(parameter, written, home) and (off == own or not own)


def is_as_large(parameter: Parameter, written: object, home: Home) -> bool:
    """True where both are equal but for the tolerance."""
    return not differs(parameter, written, replace(home, within=1e-9))


def _off(parameter: Parameter, written: object) -> float:
    return parameter.tolerance(written) if parameter.toleranced else 0.0
