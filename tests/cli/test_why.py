"""``lesart why``: what it prints, and what it returns."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest

from lesart.cli.main import main
from tests.cli.spoken import read_json, refused, said

MASS = "hive 2 mass"


@pytest.fixture
def halved(yard: Path) -> Path:
    """The yard with half of the scale's gain."""
    file = yard / "lesart.toml"
    file.write_text(file.read_text().replace('gain = "128"', 'gain = "64"', 1))
    return yard


def test_two_truths_name_the_gain(halved: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each at its own raw value; the value that mends it stands below."""
    asked = ("why", halved, MASS, "--should", "43 kg ± 0.3", "--raw", "461708", "--should", "65.3 kg ± 0.3")
    out = said(capsys, *asked, "--raw", "700000")
    assert "channels.hive 2 mass.law[0].gain = 128" in out
    told = read_json(said(capsys, *asked, "--raw", "700000", "--json"))
    assert told["right"] is False
    assert [each["raw"] for each in told["truths"]] == [461708.0, 700000.0]
    edits = [
        edit
        for answer in told["answers"][:1]
        for each in (answer, *answer["same"])
        for mistake in each["mistakes"]
        for edit in mistake["edits"]
    ]
    assert {"key": "channels.hive 2 mass.law[0].gain", "value": "128"} in edits
    for answer in told["answers"]:
        for x, each in zip(answer["reads"], told["truths"], strict=True):
            assert abs(x - each["reading"]) <= each["tolerance"]


def test_references_are_truths_as_well(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert "That is right as it is" in said(capsys, "why", yard, MASS)


def test_what_nothing_explains_returns_1(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    wild = [(100_000, "17 kg"), (200_000, "3 kg"), (300_000, "91 kg"), (400_000, "8 kg")]
    asked = [part for raw, reading in wild for part in ("--should", f"{reading} ± 0.1", "--raw", str(raw))]
    out = said(capsys, "why", yard, "hive 1 mass", *asked, code=1)
    assert "suspects explains it, alone or two by two." in out


def test_wrong_use_is_a_sentence(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert "write what it should read, like 21.5 kg" in refused(capsys, "why", yard, MASS, "--should", "heavy")
    assert '--raw "x"' in refused(capsys, "why", yard, MASS, "--should", "4 kg", "--raw", "x")
    assert "say what it should read" in refused(capsys, "why", yard, "battery")
    with pytest.raises(SystemExit) as ended:
        main(["why", str(yard), MASS, "--raw", "5"])
    assert ended.value.code == 2
    assert "it goes after the --should it belongs to" in capsys.readouterr().err


def test_a_panel_is_asked_about_look_by_look(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each pick leaves fewer; the end names what is otherwise, and its key."""
    asked = read_json(said(capsys, "why", yard, "stand", "--json"))
    looks = asked["question"]["looks"]
    anode = "the segments of a digit share their anode: low and high are the other way round"
    pick = next(at for at, look in enumerate(looks, 1) if anode in look["of"])
    out = said(capsys, "why", yard, "stand", "--pick", pick)
    assert anode in out
    assert "panels.stand.common = anode" in out
    assert "which of these do you see?" in said(capsys, "why", yard, "door", "--pattern", "both")


@pytest.mark.long
def test_what_stands_there_is_typed(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = said(capsys, "why", yard, "stand", "--pattern", "all on", "--sees", " | | | ")
    assert "stand: the segments of a digit share their anode" in out
    none = said(capsys, "why", yard, "stand", "--pattern", "all on", "--sees", "a | b | c | d", code=1)
    assert none == "stand: no single thing of its set-up explains what you see.\n"
    assert "of 9 looks there is no 12" in refused(capsys, "why", yard, "stand", "--pick", "12")
    assert '--pattern "waves": stand can show face mass' in refused(capsys, "why", yard, "stand", "--pattern", "waves")


@pytest.mark.long
def test_a_flicker_a_lag_and_silence(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Of the loop, with the key that mends it; of a part, what to measure first."""
    out = said(capsys, "why", yard, "--time", "missed")
    assert "loop.tasks.count beam.runs = by interrupt" in out
    told = read_json(said(capsys, "why", yard, "--time", "freezes", "--json"))
    assert told == {"lesart": 1, "symptom": "freezes", "verdicts": []}
    assert "By the figures of the loop nothing freezes" in said(capsys, "why", yard, "--time", "freezes")
    out = said(capsys, "why", yard, "yard air", "--nothing", code=1)
    assert out.startswith("yard air: it does say something, from ")
    assert 'Next is "air print"; write what you measure at wire.measured.air print.' in out
    file = yard / "lesart.toml"
    file.write_text(file.read_text().replace('ground = "0.4 Ω"', 'ground = "40 Ω"'))
    assert "That explains it" in said(capsys, "why", yard, "lid probe")
    assert "Say which channel, panel or part is wrong" in refused(capsys, "why", yard)


def test_the_mistakes_of_the_wrong_yard_are_found(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """By what its opening line says of either station."""
    folder = tmp_path / "wrong"
    assert "with two mistakes in it" in said(capsys, "demo", folder, "--wrong", "--make")
    out = said(capsys, "why", folder, MASS, "--should", "42 kg", "--at", "1440")
    assert "channels.hive 2 mass.law[0].gain = 128" in out
    out = said(capsys, "why", folder, "lid air", "--should", "35 °C", "--at", "1440")
    assert "channels.lid air.law[0].input = 500 mV" in out


@pytest.mark.parametrize(
    ("phrase", "true"),
    [
        ("3 kg too high", lambda now: now - 3),
        ("it is 3 kg too low", lambda now: now + 3),
        ("twice as much", lambda now: now / 2),
        ("half", lambda now: now * 2),
        ("it reads 42 but should be 43 kg", lambda now: 43),
    ],
)
@pytest.mark.parametrize("place", [(), ("--raw", "461708"), ("--at", "300")])
def test_what_it_should_read_is_said_as_at_the_desk(
    phrase: str, true: Callable[[float], float], place: tuple[str, ...], yard: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """By what it reads there: of a raw value, at a moment, at its end."""
    (told,) = read_json(said(capsys, "why", yard, MASS, "--should", phrase, *place, "--json"))["truths"]
    assert told["reading"] == pytest.approx(true(told["now"]), rel=1e-5)


def test_what_does_not_say_which_way(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert "write 3 too high, or 3 too low" in refused(capsys, "why", yard, MASS, "--should", "off by 3")
