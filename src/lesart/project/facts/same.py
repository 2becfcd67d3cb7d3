"""Is a fact that is stated again elsewhere the same as at its home?"""

from __future__ import annotations

from dataclasses import replace

from lesart.core.parameters import Parameter
from lesart.core.quantity import Quantity
from lesart.project.model import Home


def differs(parameter: Parameter, written: object, home: Home) -> bool:
    """Both as the parameter reads them; numbers within what the home is known to are the same."""
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
    """Is a value stated again the home's? Then it moves with it, tolerance and all. One that is said to be off by as
    much as its home, or whose home does not say, is no other."""
    off, own = _off(parameter, written), _off(parameter, home.written)
    return is_as_large(parameter, written, home) and (off == own or not own)


def is_as_large(parameter: Parameter, written: object, home: Home) -> bool:
    """The same but for what is said of a tolerance."""
    return not differs(parameter, written, replace(home, within=1e-9))


def _off(parameter: Parameter, written: object) -> float:
    return parameter.tolerance(written) if parameter.toleranced else 0.0
