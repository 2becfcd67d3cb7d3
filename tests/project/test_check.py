"""The project file: every wrong key, unit, type and range is one clear sentence with place, value and what would be
right."""

from __future__ import annotations

import tomllib

import pytest

from lesart.core.errors import ProjectError
from lesart.demo.yard import project_text
from lesart.project.check import check_project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from tests.conftest import AIR, MASS

CHANNEL = ("channels", MASS)

WRONG = [
    ((*CHANNEL, "unit"), "volts", "channels.hive 2 mass.unit", "not a unit"),
    ((*CHANNEL, "raw_unit"), "V", "channels.hive 2 mass", "law 1 takes ct"),
    ((*CHANNEL, "source"), "sclae", "channels.hive 2 mass.source", "scale"),
    ((*CHANNEL, "lowest"), "500 kg", "channels.hive 2 mass.highest", "above lowest"),
    ((*CHANNEL, "lowest"), "5", "channels.hive 2 mass.lowest", "no unit"),
    ((*CHANNEL, "lowest"), "5 V", "channels.hive 2 mass.lowest", "cannot be converted"),
    ((*CHANNEL, "law", 0, "bits"), 4, "law[0].bits", "from 8 to 32"),
    ((*CHANNEL, "law", 0, "reference"), "0 V", "law[0].reference", "above 0 V"),
    ((*CHANNEL, "law", 0, "reference"), "5", "law[0].reference", "no unit"),
    ((*CHANNEL, "law", 0, "kind"), "bridge", "law[0].kind", "did you mean bridge converter?"),
    ((*CHANNEL, "law", 1, "capacity"), "200 V", "law[1]", "mass or a force"),
    ((*CHANNEL, "calm", 1, "samples"), 4, "calm[1]", "odd"),
    ((*CHANNEL, "calm", 2, "samples"), 0, "calm[2].samples", "from 1"),
    ((*CHANNEL, "calm", 0, "lowest"), "5 V", "calm[0]", "cannot be converted"),
    ((*CHANNEL, "calm", 0, "kind"), "smooth", "calm[0].kind", "median"),
    ((*CHANNEL, "true", "kind"), "curve", "true.kind", '"none", "offset", "gain", "line"'),
    ((*CHANNEL, "true", "references", 1, "true"), "10 m", "references[1].true", "cannot be converted"),
    ((*CHANNEL, "true", "references", 1, "count"), 0, "references[1].count", "1 or more"),
    ((*CHANNEL, "fit", "decimals"), 99, "fit.decimals", "from 0 to 9"),
    ((*CHANNEL, "fit", "widht"), 4, "fit.widht", "did you mean width?"),
    ((*CHANNEL, "fit", "unit"), "V", "fit.unit", "cannot be converted"),
    ((*CHANNEL, "colour"), "red", "channels.hive 2 mass.colour", "not known here"),
    (("channels", AIR, "law", 0, "slope"), "10 mV/A", "law[0]", "slope must be in"),
    (("panels", "stand", "kind"), "lampions", "panels.stand.kind", '"segments", "characters"'),
    (("panels", "stand", "digits"), 40, "panels.stand.digits", "from 1 to 16"),
    (("panels", "stand", "scan", "on_time"), "-1 ms", "scan.on_time", "above 0 ms"),
    (("panels", "door", "scan"), "fast", "panels.door.scan", "not known here"),
    (("faces", "mass", "panel"), "stnad", "faces.mass.panel", "stand, door"),
    (("faces", "mass", "items", 0, "channel"), "hive 3", "items[0].channel", "hive 2 mass, lid air"),
    (("faces", "mass", "items", 0, "kind"), "needle", "items[0].kind", "label, text, field"),
    (("faces", "mass", "items", 0, "width"), 0, "items[0].width", "from 1"),
    (("sources", "scale", "header"), -1, "sources.scale.header", "from 0"),
    (
        ("sources", "scale", "time_unit"),
        "days",
        "sources.scale.time_unit",
        '"h:m:s", "m:s", "hhmm", "hhmmss", "duration"',
    ),
    (("lesart",), 7, "lesart", "from 1 to 1"),
    (("nmae",), "yard", "nmae", "not known here"),
]


@pytest.mark.parametrize(("key", "value", "place", "says"), WRONG, ids=[f"{row[2]}={row[1]}" for row in WRONG])
def test_one_wrong_value(key: tuple[str | int, ...], value: str | int, place: str, says: str) -> None:
    """The sentence names the place, repeats the value and says what would be right; no other problem follows from
    it."""
    text = Editor().with_value(project_text(), key, value)
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    (problem,) = caught.value.problems
    assert place in problem.place
    assert says in str(problem)
    assert str(caught.value).startswith(f"lesart.toml:{problem.line}: ")
    assert problem.line > 0
    assert problem.words
    assert "\n" not in str(problem)


def test_a_reference_without_a_value() -> None:
    """What is missing is named, with an example of it."""
    text = project_text().replace('indicated = "10', 'x_indicated = "10', 1)
    with pytest.raises(ProjectError, match=r"references\[1\]\.indicated: it is missing; .* like \"2.5 kg\""):
        check_project(text)


def test_every_problem_is_reported() -> None:
    """Not the first only."""
    editor, text = Editor(), project_text()
    for key, value, _, _ in (WRONG[6], WRONG[18], WRONG[24]):
        text = editor.with_value(text, key, value)
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    assert len(caught.value.problems) == 3


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("name = ", "line 1"),
        ("lesart = 1\n[channels", "line 2"),
        ("\x00", "line 1"),
        ("", "lesart: it is missing"),
        ("lesart = 1\nchannels = 5", "tables with names"),
        ("lesart = 1\n[channels]\nx = 1", "tables with names"),
        ('lesart = 1\n[channels.x]\nlaw = "y"', "list of tables"),
        ("lesart = 1\n[panels.x]", "panels.x.kind"),
        ('lesart = "1"', "whole number"),
    ],
)
def test_broken_texts(text: str, says: str) -> None:
    """What is not TOML is named with its line; what is the wrong kind of thing with its key."""
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    assert says in str(caught.value)


def test_own_keys_and_tables_are_kept() -> None:
    """A person's own tables, and keys that start with x_, are no problem."""
    text = project_text() + '\n[workbench]\nlamp = "left"\n[channels."lid air".fit.x_mine]\na = 1\n'
    assert check_project(text).tables["workbench"] == {"lamp": "left"}


def test_items_take_over_the_channel_s_rules() -> None:
    """An item states its width; the decimals are the channel's, until it states them too."""
    project = check_project(project_text())
    (item,) = project.faces["mass"].fields_of(MASS)
    assert (item.field.width, item.field.decimals, item.own_keys) == (4, 1, {"width"})
    changed = check_project(Editor().with_value(project_text(), ("channels", MASS, "fit", "decimals"), 2))
    assert changed.faces["mass"].fields_of(MASS)[0].field.decimals == 2
    assert project.panels_showing(MASS) == ("stand", "door", "lid")
    assert project.panels_showing(AIR) == ("door", "lid")


def test_an_edit_keeps_everything_else() -> None:
    """Comments, order, blank lines and the person's own keys: only the one line differs."""
    text = project_text() + '\n[workbench]  # mine\nlamp = "left" # the red one\n'
    edited = Editor().with_value(text, (*CHANNEL, "law", 0, "gain"), "64")
    before, after = text.splitlines(), edited.splitlines()
    changed = [(a, b) for a, b in zip(before, after, strict=True) if a != b]
    assert changed == [
        (
            'gain = "128"  # reference and excitation are the rail of the amplifier, so the ratio holds',
            'gain = "64"  # reference and excitation are the rail of the amplifier, so the ratio holds',
        )
    ]


def test_edits_in_a_row_agree_with_edits_from_anew() -> None:
    """The editor's kept document gives the text that a fresh one gives, also after a text that was refused."""
    kept, text = Editor(), project_text()
    for key, value in (
        ((*CHANNEL, "calm", 2, "samples"), 8),
        ((*CHANNEL, "fit", "pad"), "zero"),
        (("faces", "mass", "items", 0, "decimals"), 0),
    ):
        kept.with_value(text, (*CHANNEL, "fit", "decimals"), 99)
        fresh = Editor().with_value(text, key, value)
        assert kept.with_value(text, key, value) == fresh
        text = fresh
        assert value_at(check_project(text).tables, key) == value
    inline = kept.with_value(text, (*CHANNEL, "true", "references", 2, "used"), False)
    assert check_project(inline).channels[MASS].references[2].used is False


@pytest.mark.parametrize(("step", "index"), [("law", 0), ("law", 1), ("calm", 0), ("calm", 3)])
def test_an_entry_goes_and_every_comment_stays(step: str, index: int) -> None:
    """Comments behind a table speak of what comes next: they are not taken away with it."""
    text = project_text()
    key = ("channels", MASS, step, index)
    left = Editor().without(text, key)
    wanted = tomllib.loads(text)
    del wanted["channels"][MASS][step][index]
    assert tomllib.loads(left) == wanted
    own_lines = [line for line in text.splitlines() if line.startswith("#")]
    assert [line for line in left.splitlines() if line.startswith("#")] == own_lines
    assert "\n\n\n" not in left


@pytest.mark.parametrize(
    "text",
    [
        '[channels.c]\nx = [\n  [1, 2],\n]\n[[channels.c.calm]]\nkind = "a"\n# of the next\n[[channels.c.calm]]\nkind = "b"\n',
        'channels.c.calm = [ { kind = "a" }, { kind = "b" } ] # both\n',
        '[[channels.c.calm]]\nkind = "a"\nnote = """\n[[channels.c.calm]]\n"""\n[[channels.c.calm]]\nkind = "b"\n',
    ],
)
def test_entries_however_they_are_written(text: str) -> None:
    """Tables, tables in line, and texts that look like tables: what is left is what was meant."""
    left = tomllib.loads(Editor().without(text, ("channels", "c", "calm", 0)))
    assert left["channels"]["c"]["calm"] == [{"kind": "b"}]
    gone = Editor().without(Editor().without(text, ("channels", "c", "calm", 1)), ("channels", "c", "calm", 0))
    assert "calm" not in tomllib.loads(gone).get("channels", {}).get("c", {})


EDITS = [
    (("channels", MASS, "law", 1, "capacity"), "150 kg"),
    (("channels", MASS, "column"), "lid_mv"),
    (("sources", "scale", "delimiter"), ";"),
    (("parts", "brood half", "resistance"), "12 kΩ"),
    (("wire", "joins", 3, "colour"), "grey"),
    (("wire", "measured", "ground"), "0.5 Ω"),
    (("sums", "brood half", "supply"), "3 V"),
    (("faces", "both", "items", 1, "width"), 7),
    (("panels", "stand", "digits"), 6),
    (("name",), "another yard"),
]


@pytest.mark.parametrize(("key", "value"), EDITS, ids=[str(edit[0][-1]) for edit in EDITS])
def test_what_is_taken_from_the_project_before_is_what_would_be_checked(key: tuple[str, ...], value: object) -> None:
    """An edited project is the same, whether it was checked from nothing or beside the one before."""
    before = check_project(project_text())
    text = Editor().with_value(project_text(), key, value)  # type: ignore[arg-type]
    fresh, beside = check_project(text), check_project(text, before)
    assert repr(beside) == repr(fresh)


@pytest.mark.long
def test_a_problem_is_a_problem_beside_the_project_before() -> None:
    before = check_project(project_text())
    for key, value, place, _ in WRONG:
        text = Editor().with_value(project_text(), key, value)
        with pytest.raises(ProjectError) as fresh:
            check_project(text)
        with pytest.raises(ProjectError) as beside:
            check_project(text, before)
        assert str(beside.value) == str(fresh.value), place


def _with_law(text: str, channel: str, entry: dict[str, str]) -> str:
    return Editor().with_entry(text, ("channels", channel, "law"), entry)


def test_a_channel_that_reads_itself_is_refused() -> None:
    """Through however many others, and with the way named."""
    text = Editor().with_value(project_text(), ("channels", "syrup below", "law", 0, "air"), "syrup below")
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    assert "gives mm, but law 1, air takes °C" in str(caught.value)
    reads = {
        "kind": "formula",
        "formula": "x + 0 * t",
        "from": "°C",
        "to": "°C",
        "names": "t = {} in Δ°C",
        "units": "plain numbers",
        "lowest": "-50",
        "highest": "100",
    }
    names = (AIR, "brood probe", "yard air")
    text = project_text()
    for name, other in zip(names, (*names[1:], names[0]), strict=True):
        text = _with_law(text, name, {**reads, "names": f"t = {other} in °C"})
    with pytest.raises(ProjectError) as caught:
        check_project(text)
    assert f'"{AIR}" reads "brood probe" reads "yard air" reads "{AIR}"' in str(caught.value)
    assert "a reading cannot be made of itself" in str(caught.value)


def test_a_channel_is_checked_anew_when_one_it_reads_changes() -> None:
    """What is written as before is kept, but not where it leans on what is not."""
    text = Editor().with_value(project_text(), ("channels", "syrup below", "law", 0, "air"), "yard air")
    before = check_project(text)
    assert before.channels["syrup below"].chain.reads == ("yard air",)
    changed = Editor().with_value(text, ("channels", "yard air", "fit", "stale_after"), "33 s")
    after = check_project(changed, before)
    link = after.channels["syrup below"].chain.links[0]
    assert link.others[0].stale_s == 33.0
    assert after.channels["pressure"] is before.channels["pressure"]
    humid = Editor().with_value(text, ("channels", "syrup below", "law", 0, "air"), "yard humidity")
    with pytest.raises(ProjectError, match='channel "yard humidity" gives %, but law 1, air takes °C'):
        check_project(humid, before)


def test_a_mistake_in_units_in_each_position_of_a_chain_names_both_steps() -> None:
    """Between raw and the first law, between two laws, and between the last law, the channel, its filters and field."""
    for key, value, says in (
        ((*CHANNEL, "raw_unit"), "V", "raw gives V, but law 1 takes ct"),
        ((*CHANNEL, "law", 1, "capacity"), "200 N", "law 2 gives N, but the channel's unit takes kg"),
        ((*CHANNEL, "calm", 0, "lowest"), "5 V", "V cannot be converted to kg"),
        ((*CHANNEL, "fit", "unit"), "hPa", "kg cannot be converted to hPa"),
        ((*CHANNEL, "true", "references", 0, "true"), "5 V", "V cannot be converted to kg"),
    ):
        with pytest.raises(ProjectError) as caught:
            check_project(Editor().with_value(project_text(), key, value))
        assert says in str(caught.value)
    text = _with_law(project_text(), MASS, {"kind": "shunt", "part": "brood half"})
    with pytest.raises(ProjectError, match=r"law 2 gives kg, but law 3 takes V"):
        check_project(text)
