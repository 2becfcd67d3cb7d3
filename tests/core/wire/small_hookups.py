"""Boards, supplies and buses that small hook-ups are put together from."""

from __future__ import annotations

POWER = "{0}.supply > node.3V3; {0}.gnd > node.gnd"
BUS = "{0}.clock > node.p16; {0}.data > node.p15"
NODE = {"node": "3.3 V board"}
STRONG = {"node": {"kind": "3.3 V board", "plug": "2 A"}}
BIG = {"node": "5 V board"}


def fed(*names: str, rail: str = "3V3") -> str:
    return ";".join(POWER.format(name).replace("3V3", rail) for name in names) + ";"


def bus(*names: str) -> str:
    return ";".join(BUS.format(name) for name in names) + ";"


SEGMENTS = ";".join(f"d.{name} > node.p{number} through r" for number, name in enumerate("abcdefg", 1))
