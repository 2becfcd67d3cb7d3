"""A kind of the catalogue written like a person's own in the project file: to copy, rename and change."""

from __future__ import annotations

from typing import Any

from lesart.core.wire.entry import written
from lesart.core.wire.part import PartKind, Pin, shown_address


def kind_text(kind: PartKind) -> str:
    """``[kinds."my NAME"]`` with all pins. Its parameters are left out: an own kind has fixed values in its pins."""
    lines = [f'[kinds."my {kind.name}"]', f'says = "{kind.says}"', f'group = "{_group(kind)}"']
    if kind.logic_v is not None:
        lines.append(f'logic = "{written(kind.logic_v, "V")}"')
    if kind.total_a is not None:
        lines.append(f'total = "{written(kind.total_a, "A")}"')
    if kind.addresses:
        lines.append(f"addresses = [{', '.join(_quoted(shown_address(each)) for each in kind.addresses)}]")
    if kind.orders:
        orders = ", ".join(f"[{', '.join(_quoted(name) for name in order)}]" for order in kind.orders)
        lines.append(f"orders = [{orders}]")
    lines += ["pins = [", *(f"  {{ {_pin(pin)} }}," for pin in kind.pins), "]"]
    return "\n".join(lines) + "\n"


def _group(kind: PartKind) -> str:
    """The group of a kind; parts in between cannot be own kinds, since they have no pins."""
    return kind.group if kind.group != "between" else "driver"


def _quoted(words: str) -> str:
    return f'"{words}"'


def _pin(pin: Pin) -> str:
    roles = _quoted(pin.roles[0]) if len(pin.roles) == 1 else f"[{', '.join(_quoted(role) for role in pin.roles)}]"
    entries: list[tuple[str, Any]] = [("name", _quoted(pin.name)), ("role", roles)]
    if pin.optional:
        entries.append(("optional", "true"))
    quantities = (
        ("gives", pin.gives_v, "V"),
        ("lowest", pin.lowest_v, "V"),
        ("highest", pin.highest_v, "V"),
        ("tolerates", pin.tolerates_v, "V"),
        ("needs_high", pin.needs_high_v, "V"),
        ("current", pin.current_a, "A"),
        ("peak", pin.peak_a, "A"),
        ("source", pin.source_ohm, "Ω"),
        ("accepts", pin.accepts_ohm, "Ω"),
        ("forward", pin.forward_v, "V"),
        ("series", pin.series_ohm or None, "Ω"),
        ("pull_up", pin.pull_up_ohm, "Ω"),
    )
    entries += [(name, _quoted(written(value, unit))) for name, value, unit in quantities if value is not None]
    if pin.load_a:
        entries.append(("load", _quoted(written(pin.load_a, "A"))))
    if pin.fed_by:
        entries.append(("fed_by", _quoted(pin.fed_by)))
    return ", ".join(f"{name} = {value}" for name, value in entries)
