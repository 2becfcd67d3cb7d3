"""The tables of the hook-up: own kinds, parts, connections, sums, measured values; each mistake is one sentence."""

from __future__ import annotations

import tomllib

import pytest

from lesart.core.errors import ProjectError
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.entry import JOINS
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import End
from lesart.core.wire.proposal.propose import propose
from lesart.demo.yard import project_text
from lesart.project.check import check_project
from lesart.project.joins_csv import joins_csv
from lesart.project.tables.kind_text import kind_text
from lesart.project.text import Editor

HEAD = 'lesart = 1\nname = "bench"\n'
OWN = """
[kinds."tank gauge"]
says = "a float in a tank"
group = "sensor"
logic = "3.3 V"
pins = [
  { name = "supply", role = "supply", lowest = "3 V", highest = "5.5 V", current = "2 mA", peak = "4 mA" },
  { name = "gnd", role = "ground" },
  { name = "out", role = "analog out", gives = "2.5 V", source = "1 kΩ" },
]

[parts.node]
kind = "3.3 V board"

[parts.tank]
kind = "tank gauge"  # the one with the long arm

[wire]
joins = [
  { pin = "tank.supply", to = "node.3V3", colour = "red" },  # keep it short
  { pin = "tank.gnd", to = "node.gnd" },
]
"""


def wrong(text: str) -> list[tuple[str, str, str]]:
    """All problems of a project text: place, value, what would be right."""
    with pytest.raises(ProjectError) as caught:
        check_project(HEAD + text)
    return [(problem.place, problem.value, problem.wanted) for problem in caught.value.problems]


def test_a_kind_of_ones_own_is_a_kind_like_any_other() -> None:
    hookup = check_project(HEAD + OWN).hookup
    pin = hookup.pin(End("tank", "supply"))
    assert (pin.lowest_v, pin.highest_v, pin.current_a, pin.peak_a) == (3.0, 5.5, 0.002, 0.004)
    assert hookup.parts["tank"].kind.logic_v == 3.3
    assert [note.text for note in inspect_hookup(hookup) if note.is_fault] == ["tank.out (analog out) is open."]


@pytest.mark.parametrize("kind", [kind for kind in KINDS.values() if kind.pins], ids=lambda kind: kind.name)
def test_every_kind_of_the_catalogue_can_be_copied_and_read_again(kind: object) -> None:
    """What ``lesart wire --kind`` prints is a kind with the same pins."""
    name = kind.name  # type: ignore[attr-defined]
    text = kind_text(KINDS[name]) + f'\n[parts.one]\nkind = "my {name}"\n'
    again = check_project(HEAD + text).hookup.parts["one"].kind
    assert (again.pins, again.addresses, again.orders, again.logic_v, again.total_a, again.group) == (
        KINDS[name].pins,
        KINDS[name].addresses,
        KINDS[name].orders,
        KINDS[name].logic_v,
        KINDS[name].total_a,
        KINDS[name].group,
    )


WRONG = [
    ('[parts.node]\nkind = "3.3V board"', "parts.node.kind", '"3.3V board"', "did you mean 3.3 V board?"),
    ("[parts.node]\n", "parts.node.kind", "", "it must be one of"),
    ('[parts.r]\nkind = "resistor"', "parts.r.resistance", "", "it is missing"),
    ('[parts.r]\nkind = "resistor"\nresistance = "5 V"', "parts.r.resistance", '"5 V"', "number with its unit"),
    ('[parts.d]\nkind = "two-wire module"\naddress = "0x20"', "parts.d.address", '"0x20"', "0x76, 0x77"),
    ('[parts.d]\nkind = "two-wire module"\naddress = "0x99"', "parts.d.address", '"0x99"', '"0x08" to "0x77"'),
    ('[parts.d]\nkind = "contact"\naddress = "0x20"', "parts.d.address", '"0x20"', "not known here"),
    ("parts = 3", "parts", "3", "tables with names"),
    ('[kinds.k]\npins = [{ name = "a", role = "grund" }]', "kinds.k.pins[0].role", '"grund"', "did you mean ground?"),
    ('[kinds.k]\npins = [{ name = "a" }]', "kinds.k.pins[0].role", '""', "one or more of supply"),
    ('[kinds.k]\npins = [{ name = "a.b", role = "ground" }]', "kinds.k.pins[0].name", '"a.b"', "no point"),
    (
        '[kinds.k]\npins = [{ name = "a", role = "ground" }, { name = "a", role = "supply" }]',
        "kinds.k.pins",
        '"a"',
        "two pins have this name",
    ),
    ("[kinds.k]\npins = []", "kinds.k.pins", "[]", "a list of tables"),
    (
        '[kinds.k]\naddresses = ["0x01"]\npins = [{ name = "a", role = "ground" }]',
        "kinds.k.addresses[0]",
        '"0x01"',
        "7-bit",
    ),
    (
        '[kinds.k]\norders = [["b"]]\npins = [{ name = "a", role = "ground" }]',
        "kinds.k.orders",
        "[['b']]",
        "all pins in another order",
    ),
    ("wire = 1", "wire", "1", "a table with joins"),
    ("[wire]\njions = []", "wire.jions", "[]", "joins or measured"),
    ("[wire]\njoins = 1", "wire.joins", "1", "a list of tables"),
    ('[parts.node]\nkind = "3.3 V board"\n[wire]\njoins = [{ pin = "node.p1" }]', "wire.joins[0].to", "", "missing"),
    (
        '[parts.node]\nkind = "3.3 V board"\n[wire]\njoins = [{ pin = "node.p1", to = "nod.p2" }]',
        "wire.joins[0].to",
        '"nod.p2"',
        "did you mean node?",
    ),
    (
        '[parts.node]\nkind = "3.3 V board"\n[wire]\njoins = [{ pin = "node.p1", to = "node.p99" }]',
        "wire.joins[0].to",
        '"node.p99"',
        "node has the pins in, 5V",
    ),
    (
        '[parts.node]\nkind = "3.3 V board"\n[wire]\njoins = [{ pin = "node.p1", to = "node.p1" }]',
        "wire.joins[0].to",
        '"node.p1"',
        "to itself",
    ),
    (
        '[parts.node]\nkind = "3.3 V board"\n[wire]\njoins = [{ pin = "node.p1", to = "node.gnd", through = "r" }]',
        "wire.joins[0].through",
        '"r"',
        "parts between are none; add a resistor",
    ),
    ('[sums.s]\nkind = "lamp resister"', "sums.s.kind", '"lamp resister"', "did you mean lamp resistor?"),
    ('[sums.s]\nkind = "shunt"\ncurrent = "2 V"', "sums.s.current", '"2 V"', "number with its unit"),
    ('[sums.s]\nkind = "shunt"\nsupply = "2 V"', "sums.s.supply", '"2 V"', "not known here"),
    ('[wire.measured]\n"x" = 3', "wire.measured", "{'x': 3}", "a table of texts"),
    (
        '[parts.node]\nkind = "3.3 V board"\n[parts.lid]\nkind = "analog sensor"\n[wire]\n'
        'joins = [{ pin = "lid.supply", to = "node.3V3" }]\n[wire.measured]\n"node.3V3 volts" = "3.3 A"',
        "wire.measured.node.3V3 volts",
        '"3.3 A"',
        "cannot be converted",
    ),
]


@pytest.mark.parametrize(("text", "place", "value", "says"), WRONG, ids=[f"{row[1]}={row[2]}" for row in WRONG])
def test_one_mistake_one_sentence(text: str, place: str, value: str, says: str) -> None:
    """Place, value and what would be right, and nothing that only follows from it."""
    found = wrong(text)
    assert len(found) == 1, found
    assert found[0][:2] == (place, value)
    assert says in found[0][2]


def test_a_part_with_a_problem_is_no_second_problem_where_it_is_joined_or_read() -> None:
    text = project_text().replace('kind = "resistor"\nresistance = "10 kΩ"', 'kind = "resistor"\nresistance = "10 kg"')
    assert [problem[0] for problem in wrong_of(text)] == ["parts.brood half.resistance"]


def wrong_of(text: str) -> list[tuple[str, str]]:
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    return [(problem.place, problem.wanted) for problem in caught.value.problems]


@pytest.mark.parametrize(
    ("old", "new", "place", "says"),
    [
        (
            'part = "brood half"',
            'part = "brod half"',
            "channels.brood probe.law[0].part",
            "has brood half, stand resis",
        ),
        ('part = "brood half"', 'part = "gate"', "channels.brood probe.law[0].part", "a part of the hook-up that is a"),
        ('part = "amp"', 'part = "scale"', "channels.hive 2 mass.part", "the hook-up has node, pack"),
    ],
)
def test_what_reads_a_part_names_one_that_fits(old: str, new: str, place: str, says: str) -> None:
    found = wrong_of(project_text().replace(old, new))
    assert [each[0] for each in found] == [place]
    assert says in found[0][1]


def test_a_remedy_keeps_comments_and_order() -> None:
    """Only lines are added, and one joins list holds them."""
    text = HEAD + OWN
    plan = propose(check_project(text).hookup)
    mended = Editor().mended(text, plan.mends)
    assert "# keep it short" in mended
    assert "# the one with the long arm" in mended
    assert [note for note in inspect_hookup(check_project(mended).hookup) if note.is_fault] == []
    assert tomllib.loads(mended)["wire"]["joins"][:2] == tomllib.loads(text)["wire"]["joins"]
    assert len(tomllib.loads(mended)["wire"]["joins"]) == 3


def test_a_new_part_and_a_first_connection_make_their_tables() -> None:
    editor = Editor()
    text = editor.with_table(HEAD, ("parts", "node"), {"kind": "3.3 V board"})
    text = editor.with_table(text, ("parts", "led"), {"kind": "lamp"})
    text = editor.with_entry(text, JOINS, {"pin": "led.−", "to": "node.gnd"})
    hookup = check_project(text).hookup
    assert [str(join.pin) for join in hookup.joins] == ["led.−"]
    text = editor.without(text, (*JOINS, 0))
    assert check_project(text).hookup.joins == ()


def test_measured_values_of_a_part_that_is_gone_are_kept() -> None:
    """It may come back; what is not known is not judged."""
    project = check_project(HEAD + OWN.replace("[wire]", "[wire.measured]\n'old.3V3 volts' = 'bent'\n[wire]", 1))
    assert project.measured == {"old.3V3 volts": "bent"}


def test_connections_as_csv() -> None:
    rows = joins_csv(check_project(project_text()).hookup).splitlines()
    assert rows[0] == "part,pin,to_part,to_pin,role,through,through_is,colour"
    assert "lid probe,out,node,a1,analog out,,,yellow" in rows
    assert "stand,a,node,p1,segment,stand resistors,resistor 270 Ω,grey" in rows
    assert len(rows) == 39
