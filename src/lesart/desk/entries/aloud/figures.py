"""Numbers with units among words, and which parameter of a part or of a sum they may be for."""

from __future__ import annotations

import re

from lesart.core.errors import QuantityError, UnitError
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit

NUMBER = r"[-−+]?(?:\d+(?:[.,]\d+)?|[.,]\d+)"
FIGURE = re.compile(r"(?<![\w.,])\d+(?:[.,]\d+)?\s*(?:[kMRΩ]\d*(?!\w)|[kMR]?\s*ohms?\b|[^\W\d]+(?:[/·][^\W\d]+)?|Ω|%)?")


def takes(parameter: Parameter, figure: str) -> bool:
    """True where a figure has the dimension of a parameter. A number with k, M or R alone is a resistance."""
    if parameter.kind != "quantity" or re.fullmatch(r"[\d.,]+", figure):
        return False
    unit = parse_unit(parameter.unit)
    try:
        quantity = parse_quantity(figure, parse_unit("1"))
    except (QuantityError, UnitError):
        return False
    bare = re.fullmatch(r"[\d.,]+\s*[kMR]\d*", figure) is not None
    return unit.same_dimension(parse_unit("Ω")) if bare else quantity.unit.same_dimension(unit)
