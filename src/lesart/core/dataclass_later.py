"""The standard library's frozen dataclass, whose methods are made when they are first needed.

Lesart has some five hundred small frozen results and records. The standard library compiles six methods for each when
its module is imported, which took half of the time until ``lesart hand`` could begin. Here a class gets its fields at
once, equality and hash from one function shared by all, and its ``__init__`` when its first instance is made. Anything
beyond that, such as ordering or a mutable class, is left to the standard library.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from operator import attrgetter
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from dataclasses import dataclass as dataclass
else:

    def dataclass(cls=None, /, *, frozen=False, eq=True, kw_only=False, order=False):
        """The standard library's decorator, for the four of its options that Lesart uses."""

        def made(cls):
            if not frozen or order:
                return dataclasses.dataclass(cls, frozen=frozen, eq=eq, kw_only=kw_only, order=order)
            return _made(cls, eq, kw_only)

        return made if cls is None else made(cls)


def _made(cls: Any, eq: bool, kw_only: bool) -> Any:
    # Without a docstring the standard library would look for the signature, and make one.
    cls.__doc__ = cls.__doc__ or cls.__name__
    own = dict(vars(cls))
    dataclasses.dataclass(init=False, repr=False, eq=False, kw_only=kw_only)(cls)
    fields = dataclasses.fields(cls)
    cls.__setattr__, cls.__delattr__ = _refuse_to_set, _refuse_to_delete
    if "__init__" not in own:
        cls.__init__ = _first_init(cls)
    if "__repr__" not in own:
        cls.__repr__ = _repr_of([each.name for each in fields if each.repr])
    if eq and "__eq__" not in own:
        cls.__eq__ = _eq_by(_values_of([each.name for each in fields if each.compare]))
        if "__hash__" not in own:
            cls.__hash__ = _hash_by(
                _values_of([each.name for each in fields if (each.compare if each.hash is None else each.hash)])
            )
    return cls


def _refuse_to_set(self: object, name: str, value: object) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot assign to field {name!r}")


def _refuse_to_delete(self: object, name: str) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot delete field {name!r}")


def _values_of(names: list[str]) -> Callable[[Any], tuple[Any, ...]]:
    if len(names) > 1:
        return attrgetter(*names)
    if not names:
        return lambda each: ()
    (name,) = names
    return lambda each: (getattr(each, name),)


def _eq_by(values: Callable[[Any], tuple[Any, ...]]) -> Callable[[Any, Any], Any]:
    def __eq__(self: Any, other: Any) -> Any:
        if other.__class__ is not self.__class__:
            return NotImplemented
        return self is other or values(self) == values(other)

    return __eq__


def _hash_by(values: Callable[[Any], tuple[Any, ...]]) -> Callable[[Any], int]:
    def __hash__(self: Any) -> int:
        return hash(values(self))

    return __hash__


def _repr_of(names: list[str]) -> Callable[[Any], str]:
    def __repr__(self: Any) -> str:
        told = ", ".join(f"{name}={getattr(self, name)!r}" for name in names)
        return f"{type(self).__qualname__}({told})"

    return __repr__


def _first_init(cls: Any) -> Callable[..., None]:
    """An ``__init__`` that replaces itself with the real one and calls it."""

    def __init__(self: Any, *given: Any, **named: Any) -> None:
        if cls.__init__ is __init__:
            cls.__init__ = _init_of(cls)
        cls.__init__(self, *given, **named)

    return __init__


def _init_of(cls: Any) -> Callable[..., None]:
    fields: list[Any] = list(cls.__dataclass_fields__.values())
    known: dict[str, Any] = {"_set": object.__setattr__, "_missing": dataclasses.MISSING}
    arguments: dict[bool, list[str]] = {False: [], True: []}
    body = []
    for each in (each for each in fields if each._field_type is dataclasses._FIELD):  # type: ignore[attr-defined]
        name, value = each.name, each.name
        if each.default_factory is not dataclasses.MISSING:
            known[f"_make_{name}"] = each.default_factory
            default = "=_missing"
            value = f"_make_{name}() if {name} is _missing else {name}" if each.init else f"_make_{name}()"
        elif each.default is not dataclasses.MISSING:
            known[f"_usual_{name}"] = each.default
            default = f"=_usual_{name}"
            if not each.init:
                continue
        else:
            default = ""
        if each.init:
            arguments[each.kw_only].append(name + default)
        body.append(f" _set(self, {name!r}, {value})")
    if hasattr(cls, "__post_init__"):
        body.append(" self.__post_init__()")
    named = ["*", *arguments[True]] if arguments[True] else []
    text = f"def __init__({', '.join(['self', *arguments[False], *named])}):\n" + ("\n".join(body) or " pass")
    exec(text, known)
    made: Callable[..., None] = known["__init__"]
    made.__qualname__ = f"{cls.__qualname__}.__init__"
    return made
