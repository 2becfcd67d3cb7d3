"""Every record that the program has, found by importing all of it: no list by hand that somebody forgets."""

from __future__ import annotations

import gc
import importlib
import pkgutil
from functools import cache

import lesart
from lesart.core.parameters import Parameter


@cache
def every_module() -> tuple[str, ...]:
    """Names of all modules, each imported."""
    names = [found.name for found in pkgutil.walk_packages(lesart.__path__, "lesart.") if "__main__" not in found.name]
    for name in names:
        importlib.import_module(name)
    return tuple(names)


@cache
def every_parameter() -> tuple[Parameter, ...]:
    """All that stand in some record."""
    every_module()
    # The application freezes what stands when it begins; a test before this one may have run it here.
    gc.unfreeze()
    return tuple(found for found in gc.get_objects() if isinstance(found, Parameter))
