"""Roles hold together: on every line of signals one end drives and the other listens."""

from __future__ import annotations

import pytest

from lesart.core.wire.role import ROLES, roles_meet

WITHOUT_LEVELS = frozenset(
    [
        "supply",
        "supply out",
        "ground",
        "contact",
        "line A",
        "line B",
        "excitation +",
        "excitation −",
        "bridge +",
        "bridge −",
        "lamp +",
        "lamp −",
        "segment",
        "digit",
        "contrast",
        "wiper",
        "element",
    ]
)
"""Power, currents and resistances: nobody reads a level there."""


@pytest.mark.parametrize("name", sorted(set(ROLES) - WITHOUT_LEVELS))
def test_one_end_drives_and_the_other_listens(name: str) -> None:
    role = ROLES[name]
    assert role.drives or role.listens
    others = [ROLES[other] for other in role.meets if other not in WITHOUT_LEVELS]
    assert others
    for other in others:
        assert (role.drives and other.listens) or (other.drives and role.listens), other.name


@pytest.mark.parametrize("name", sorted(WITHOUT_LEVELS))
def test_what_has_no_level_neither_drives_nor_listens(name: str) -> None:
    assert not ROLES[name].drives
    assert not ROLES[name].listens


def test_what_meets_does_so_from_both_ends() -> None:
    for name, role in ROLES.items():
        for other in role.meets:
            assert roles_meet((name,), (other,))
            assert roles_meet((other,), (name,))


def test_several_parts_stand_on_a_line_of_a_bus() -> None:
    """Of the two-wire and the four-wire one; each part is meant by a line of its own, or by its address."""
    for name, role in ROLES.items():
        if name.startswith(("two-wire", "four-wire")):
            assert role.shares, name
    for name in ("select", "serial send", "serial receive", "pulse out", "analog out", "digital in"):
        assert not ROLES[name].shares, name
