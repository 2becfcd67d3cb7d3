"""``lesart law``: listed, explained, evaluated, and wrong requests said."""

from __future__ import annotations

import json

import pytest

from lesart.cli.main import main
from lesart.core import law
from tests.cli.spoken import read_json


def said(capsys: pytest.CaptureFixture[str], *arguments: str, code: int = 0) -> str:
    assert main(["law", *arguments]) == code
    out, err = capsys.readouterr()
    return out if code < 2 else err


def test_all_are_listed(capsys: pytest.CaptureFixture[str]) -> None:
    lines = said(capsys).splitlines()
    assert [line.split("  ")[0] for line in lines] == list(law.KINDS)


@pytest.mark.parametrize("kind", law.KINDS)
def test_each_is_explained_from_its_record(kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    text = said(capsys, kind)
    assert law.KINDS[kind].formula in text
    assert law.KINDS[kind].example in text
    assert all(f"--set {each.name}=" in text for each in law.KINDS[kind].parameters if each.kind != "part")


@pytest.mark.parametrize(
    ("arguments", "x", "y", "units"),
    [
        (["converter", "2048", "--set", "reference=3.3V"], 2048, 1.65, ("ct", "V")),
        (
            ["converter", "32767", "--set", "reference=4.096", "--set", "bits=16", "--set", "signed=true"],
            32_767,
            4.096 * 32_767 / 32_768,
            ("ct", "V"),
        ),
        (["divider", "1200 mV", "--set", "upper=15k", "--set", "lower=5 kΩ"], 1.2, 4.8, ("V", "V")),
        (["platinum", "100 °C", "--inverse"], 138.5055, 100.0, ("Ω", "°C")),
        (["platinum", "212 °F", "--inverse"], 138.5055, 100.0, ("Ω", "°C")),
        (["gate rate", "5", "--set", "marks=2"], 5, 150.0, ("ct", "1/min")),
        (["dew point", "60", "--set", "air=25 °C"], 60, 16.69, ("%", "°C")),
        (["thermocouple", "4.096", "--set", "cold=0"], 4.096, 100.0, ("mV", "°C")),
        (
            [
                "formula",
                "2 V",
                "--set",
                "formula=x / r",
                "--set",
                "names=r = 10 Ω",
                "--set",
                "from=V",
                "--set",
                "to=mA",
            ],
            2,
            200.0,
            ("V", "mA"),
        ),
        (
            ["thermistor by points", "10k", "--set", "points=32.65 kΩ @ 0 °C; 10 kΩ @ 25 °C; 3.603 kΩ @ 50 °C"],
            10_000,
            25.0,
            ("Ω", "°C"),
        ),
        (["converter", "2048", "--set", "reference=3.3 V ± 1 %"], 2048, 1.65, ("ct", "V")),
    ],
)
def test_values_forwards_and_back(
    arguments: list[str], x: float, y: float, units: tuple[str, str], capsys: pytest.CaptureFixture[str]
) -> None:
    found = json.loads(said(capsys, *arguments, "--json"))
    assert (found["lesart"], found["kind"], found["unit_in"], found["unit_out"]) == (1, arguments[0], *units)
    assert found["points"][0]["x"] == pytest.approx(x)
    assert found["points"][0]["y"] == pytest.approx(y, rel=3e-4)
    assert found["points"][0]["slope"] is not None


def test_in_words_with_the_slope(capsys: pytest.CaptureFixture[str]) -> None:
    assert said(capsys, "platinum", "100 Ω") == "100 Ω → 0 °C   slope 2.55866 °C/Ω\n"


def test_outside_its_range_there_is_no_value(capsys: pytest.CaptureFixture[str]) -> None:
    text = said(capsys, "converter", "5000", "2048", "--set", "reference=3.3V", code=1)
    assert text.splitlines()[0] == "5000 ct → outside 0 ct to 4095 ct, where the law holds"
    found = json.loads(said(capsys, "current loop", "2 mA", "--set", "low=0 m", "--set", "high=1 m", "--json", code=1))
    assert found["points"][0] == {"x": 0.002, "y": None, "slope": None}


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["platinium", "5"], "did you mean platinum?"),
        (["converter", "5"], "reference: it is missing"),
        (["converter", "5", "--set", "reference"], "write it NAME=VALUE"),
        (["converter", "5", "--set", "reference=3 kg"], 'reference = "3 kg"; it must be a number with its unit'),
        (["converter", "5", "--set", "refrence=3"], "did you mean reference?"),
        (["platinum", "5 kg"], "kg"),
        (["thermistor", "5", "--set", "a=1", "--set", "b=1", "--set", "c=0"], "check the powers of ten"),
    ],
)
def test_a_wrong_request_says_what_would_be_right(
    arguments: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert words in said(capsys, *arguments, code=2)


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["echo", "0.01", "--set", "air=yard air"], '--set air="yard air": channels exist in a project only'),
        (["windowed RMS", "1"], "works on windows of a signal"),
        (["formula", "1", "--set", "formula=x +"], 'formula, character 4, at "the end": the formula breaks off'),
        (["formula", "1", "--set", "formula=exec(x)"], '"exec" is not a function here'),
        (["converter", "1", "--set", "reference=3.3 V ± 2 A"], 'neither a share, like "± 1 %", nor in V'),
        (["converter", "1", "--set", "reference=3.3 V ± -1 %"], "a tolerance is meant either way"),
    ],
)
def test_what_cannot_be_evaluated(arguments: list[str], says: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert says in said(capsys, *arguments, code=2)


def test_a_table_has_no_input_for_what_it_never_gives(capsys: pytest.CaptureFixture[str]) -> None:
    """Whether it is marked outside or held at its ends; carried on, it has one."""
    points = "points=0 0; 100 48"
    for outside in ("mark", "clip"):
        text = said(capsys, "--inverse", "table", "60", "--set", points, "--set", f"outside={outside}", code=1)
        assert text.startswith("60 → no input gives that")
    extended = said(capsys, "--inverse", "table", "60", "--set", points, "--set", "outside=extend")
    assert extended.startswith("125 → 60")


def test_inside_and_without_a_value(capsys: pytest.CaptureFixture[str]) -> None:
    """A division by nothing is not called outside."""
    text = said(capsys, "formula", "5", "--set", "formula=1/(x-5)", code=1)
    assert text == "5 → no finite value, though it lies within 0 to 65 535, where the law holds\n"
    assert said(capsys, "platinum", "900", code=1).startswith("900 Ω → outside 18.5201 Ω to 390.481 Ω")


def test_json_is_never_prose(capsys: pytest.CaptureFixture[str]) -> None:
    """The list of laws and what one is, as objects."""
    kinds = read_json(said(capsys, "--json"))["kinds"]
    assert [each["kind"] for each in kinds] == list(law.KINDS)
    for kind in law.KINDS:
        found = read_json(said(capsys, kind, "--json"))
        assert found["kind"] == kind
        assert all({"name", "help", "wanted", "default"} == set(each) for each in found["parameters"])


@pytest.mark.parametrize(("given", "volts"), [("0x800", 2048 / 4096 * 3.3), ("0b1000", 8 / 4096 * 3.3)])
def test_raw_values_in_other_bases(capsys: pytest.CaptureFixture[str], given: str, volts: float) -> None:
    settings = ["--set", "bits=0xC", "--set", "reference=3.3V"]
    (point,) = read_json(said(capsys, "converter", given, *settings, "--json"))["points"]
    assert point["y"] == pytest.approx(volts)
