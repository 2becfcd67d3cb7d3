"""Integer expressions on arrays: all codes of a converter at once."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.pack.program.statements import Function, Leave, Let, Statement, When
from lesart.core.pack.program.whole import Whole

Wholes = npt.NDArray[np.int64]


def on_arrays(expression: Whole, values: Mapping[str, Wholes]) -> Wholes:
    """An expression of variables of the moment whose values are arrays, int64 of one shape.

    What is worked out twice in a tree is looked up the second time. Raises KeyError for a variable that is not given.
    """
    return _worked(expression, values, {})


def outputs_on_arrays(function: Function, values: Mapping[str, Wholes]) -> dict[str, Wholes]:
    """What a function that keeps nothing makes of arrays of one shape, by the names of its outputs.

    Raises TypeError for one that keeps something or repeats: that goes sample by sample.
    """
    shape = np.broadcast_shapes(*(each.shape for each in values.values()))
    known = {name: np.broadcast_to(each, shape) for name, each in values.items()}
    _done(function.body, known, np.ones(shape, np.bool_))
    return {each.parts[0]: known[each.parts[0]] for each in function.outputs}


def _done(body: Iterable[Statement], known: dict[str, Wholes], at: Any) -> Any:
    """Run statements where ``at`` is set; gives where to continue after them."""
    for each in body:
        match each:
            case Let():
                # Elsewhere an index may be beyond a table's ends: it is clipped.
                known[each.name] = _put(known.get(each.name), each.value, known, at)
            case When():
                asked = np.zeros(at.shape, np.bool_)
                asked[at] = _on(each.condition, known, at) != 0
                then = _done(each.then, known, at & asked)
                at = then | _done(each.otherwise, known, at & ~asked)
            case Leave():
                return np.zeros(at.shape, np.bool_)
            case _:
                raise TypeError(f"{type(each).__name__} goes sample by sample")
    return at


def _on(expression: Whole, known: Mapping[str, Wholes], at: Any) -> Wholes:
    """Evaluate an expression only where it is needed."""
    return on_arrays(expression, {name: each[at] for name, each in known.items()})


def _put(before: Wholes | None, expression: Whole, known: Mapping[str, Wholes], at: Any) -> Wholes:
    after = np.zeros(at.shape, np.int64) if before is None else before.copy()
    after[at] = _on(expression, known, at)
    return after


def _worked(expression: Whole, values: Mapping[str, Wholes], known: dict[int, Wholes]) -> Wholes:
    found = known.get(id(expression))
    if found is None:
        found = known[id(expression)] = _by_op(expression, values, known)
    return found


def _by_op(expression: Whole, values: Mapping[str, Wholes], known: dict[int, Wholes]) -> Wholes:
    op, parts = expression.op, expression.parts
    if op == "constant":
        return np.array(parts[0], np.int64)
    if op == "local":
        return values[parts[0]]
    if op == "at":
        return np.take(np.array(parts[0].values, np.int64), _worked(parts[1], values, known))
    if op == "within":
        return _worked(parts[0], values, known)
    if op == "down":
        return _worked(parts[0], values, known) >> np.int64(parts[1])
    given = [_worked(each, values, known) for each in parts]
    return np.asarray(_OPERATIONS[op](*given), np.int64)


def _toward_zero(a: Wholes, b: Wholes) -> Wholes:
    floor = a // b
    return np.asarray(floor + ((a - floor * b != 0) & (floor < 0)), np.int64)


_OPERATIONS: dict[str, Callable[..., Any]] = {
    "+": np.add,
    "-": np.subtract,
    "*": np.multiply,
    "quotient": _toward_zero,
    "least": np.minimum,
    "most": np.maximum,
    "<": np.less,
    "<=": np.less_equal,
    "==": np.equal,
    "and": np.logical_and,
    "or": np.logical_or,
    "not": np.logical_not,
    "|": np.bitwise_or,
    "&": np.bitwise_and,
    "pick": np.where,
}
