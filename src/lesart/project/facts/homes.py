"""All facts of a project that have a home elsewhere, by the key at which they may be stated again."""

from __future__ import annotations

from itertools import chain
from typing import Any

from lesart.core import law
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.glass.panels.scan import PARAMETERS as SCAN
from lesart.core.notes import Key
from lesart.core.pace.task import SETTINGS
from lesart.core.parameters import Parameter
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.sums import SUMS
from lesart.project.facts.bench import homes_of_bench
from lesart.project.facts.glass import homes_of_panels
from lesart.project.facts.home import Homes
from lesart.project.facts.laws import homes_of_laws
from lesart.project.model import Home, Table
from lesart.project.toml_values import value_at


def homes_of(tables: Table, hookup: Hookup) -> dict[Key, Home]:
    """All homes with a value that is acceptable where it is used: any other has a problem at its own home."""
    found: dict[Key, Home] = {}
    for key, home in chain(
        homes_of_laws(tables, hookup), homes_of_panels(tables, hookup), homes_of_bench(tables, hookup)
    ):
        parameter = parameter_of(tables, key)
        if key not in found and parameter is not None and _takes(parameter, home):
            found[key] = home
    return found


def leans_on(tables: Table) -> dict[str, Any]:
    """Everything in the tables, apart from the hook-up, that homes depend on."""
    of_channels = ("source", "column", "part", "law", "variants")
    channels = {name: [table.get(key) for key in of_channels] for name, table in tables.get("channels", {}).items()}
    return {"channels": channels, **{group: tables.get(group) for group in ("sources", "panels", "sums", "loop")}}


def _takes(parameter: Parameter, home: Home) -> bool:
    try:
        parameter.read(home.written)
    except ValueError:
        return False
    return True


def parameter_of(tables: Table, key: Key) -> Parameter | None:
    """The parameter at a key that may have a home; None where the table there names no kind."""
    kind = str(value_at(tables, (*key[:-1], "kind")))
    parameters: tuple[Parameter, ...] = ()
    if key[0] == "channels" and kind in law.KINDS:
        parameters = law.KINDS[kind].parameters
    elif key[0] == "panels":
        parameters = SCAN if key[2] == "scan" else PANELS[kind].parameters if kind in PANELS else ADDRESS
    elif key[0] == "sums" and kind in SUMS:
        parameters = SUMS[kind].parameters
    elif key[0] == "loop":
        parameters = SETTINGS
    return next((each for each in parameters if each.name == key[-1]), None)


ADDRESS = (Parameter("address", "address", "text", "of the panel on its bus", longest=8),)
"""The address of a panel's trace."""

__all__ = ["Homes", "homes_of", "parameter_of"]
