"""``lesart hand``: every step of a value, by reading, beside other channels, of a variant, and how sure it is."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.cli.spoken import NOTE_KEYS, read_json, refused, said
from tests.conftest import AIR, MASS


def test_hand_by_hand(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Every step of a raw value, worked with a pocket calculator; the field; the segments of each digit.

    461 708 ct ÷ 2²³ × 5 V ÷ (128 × 5 V) × 1000 = 0.430 000 mV/V; ÷ 2 mV/V × 200 kg = 43.000 kg; the line takes the
    scale's error off.
    """
    found = read_json(said(capsys, "hand", yard_once, MASS, "--raw", "461708", "--json", code=1))
    assert list(found) == ["lesart", "channel", "variant", "steps", "field", "panel", "notes"]
    steps = {(each["step"], each["kind"]): each for each in found["steps"]}
    assert steps["raw", "value"] == {"step": "raw", "kind": "value", "value": 461708.0, "unit": "ct", "mark": None}
    assert steps["law", "bridge converter"]["value"] == pytest.approx(461708 / 2**23 / 128 * 1000, rel=1e-12)
    assert steps["law", "bridge converter"]["unit"] == "mV/V"
    assert steps["law", "load cell"]["value"] == pytest.approx(43.0, abs=1e-4)
    assert steps["true", "line"]["value"] == pytest.approx((43.0 - 0.214) / 1.0062, abs=0.02)
    assert {each["kind"] for each in found["steps"] if each["step"] == "calm"} == {
        "reject range",
        "median",
        "mean",
        "hold",
    }
    assert found["field"] == {"text": " 42.5", "cells": [" ", "4", "2.", "5"], "codes": [0x00, 0x66, 0xDB, 0x6D]}
    assert found["panel"] == {"name": "stand", "kind": "segments", "lit": ["", "bcfg", "abdeg.", "acdfg"]}
    assert all(list(note) == NOTE_KEYS for note in found["notes"])


def test_hand_on_another_panel_and_by_reading(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """``--panel`` chooses; ``--reading`` goes back through the inverses to a whole count."""
    found = read_json(
        said(capsys, "hand", yard_once, MASS, "--reading", "42.5 kg", "--panel", "door", "--json", code=0)
    )
    assert found["panel"]["kind"] == "characters"
    assert [len(row) for row in found["panel"]["lit"]] == [16 * 5] * 16
    assert found["field"]["text"] == "  42.5kg"
    assert found["field"]["codes"] == [ord(letter) for letter in "  42.5kg"]
    assert found["steps"][0]["value"] == int(found["steps"][0]["value"])
    assert found["steps"][-1]["value"] == pytest.approx(42.5, abs=1e-4)


@pytest.mark.parametrize(
    ("raw", "mark", "text"),
    [("8388607", "saturated", "===="), ("-8388608", "saturated", "===="), ("2000000", "range", "====")],
)
def test_hand_of_what_cannot_be(
    yard_once: Path, capsys: pytest.CaptureFixture[str], raw: str, mark: str, text: str
) -> None:
    """A converter at its end, and a load no hive has, are marked; the field shows its invalid text, not a number."""
    found = read_json(said(capsys, "hand", yard_once, MASS, f"--raw={raw}", "--json", code=1))
    last = found["steps"][-1]
    assert mark in last["mark"].split("+")
    assert found["field"]["text"] == text


def test_hand_in_text(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The same for a person: every step on a line, each with its unit."""
    lines = said(capsys, "hand", yard_once, MASS, "--raw", "461708", code=1).splitlines()
    assert lines[0].split() == ["raw", "value", "461", "708", "ct"]
    assert any(line.startswith("fit") and "[ 42.5]" in line for line in lines)
    assert any(line.startswith("† Pace") for line in lines)


def test_hand_of_a_channel_that_reads_another(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """With what the other read last, or with what is given: at 20 °C ten milliseconds are 1716 mm there and back."""
    found = read_json(
        said(capsys, "hand", yard_once, "syrup below", "--raw", "10 ms", "--with", "yard air=20 °C", "--json", code=0)
    )
    assert found["steps"][1]["value"] == pytest.approx(1.716, abs=5e-4)
    last = read_json(said(capsys, "hand", yard_once, "syrup below", "--raw", "10 ms", "--json", code=0))
    assert last["steps"][1]["value"] != found["steps"][1]["value"]
    for given, words in (("lid air=20 °C", "syrup below reads yard air"), ("yard air=20 kg", "give a number in °C")):
        assert words in refused(capsys, "hand", yard_once, "syrup below", "--raw", "10 ms", "--with", given)
    assert "no law of lid air reads another" in refused(
        capsys, "hand", yard_once, "lid air", "--raw", "750", "--with", "yard air=2 °C"
    )


def test_hand_says_how_sure_it_is(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The battery: 1.6 % of the divider, 1 % of the reference, half a count; the draws agree within a few percent."""
    found = read_json(said(capsys, "hand", yard_once, "battery", "--raw", "2700", "--sure", "--json", code=0))["sure"]
    volts = 2700 / 4095 * 3.3 * 5.7
    assert found["reading"] == pytest.approx(volts)
    shares = {share["name"]: share["half_width"] for share in found["shares"]}
    assert shares["slope"] == pytest.approx(0.016 * volts)
    assert shares["reference"] == pytest.approx(0.01 * volts)
    assert shares["one raw count"] == pytest.approx(3.3 * 5.7 / 4095 / 2)
    assert found["drawn_standard"] == pytest.approx(found["standard"], rel=0.05)
    text = said(capsys, "hand", yard_once, "battery", "--raw", "2700", "--sure", code=0)
    assert "5.7 ± 1.6 %" in text
    assert "95 % coverage" in text
    assert "not known" in said(capsys, "hand", yard_once, "wind from", "--raw", "100", "--sure", code=0)


def test_a_variant_by_name(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """hand and read take it; without one it is the channel itself; a wrong one is told those there are."""
    file = yard / "lesart.toml"
    text = file.read_text(encoding="utf-8")
    file.write_text(
        f'{text}\n[[channels."lid air".variants."β".law]]\nkind = "linear"\ninput = "400 mV"\noutput = "0 °C"\n'
        'slope = "10 mV/°C"\n',
        encoding="utf-8",
    )
    found = {}
    for variant in ("α", "β"):
        object_ = read_json(said(capsys, "hand", yard, AIR, "--raw", "700", "--variant", variant, "--json", code=0))
        found[variant] = object_["steps"][1]["value"]
        assert object_["variant"] == variant
    assert found == {"α": pytest.approx(20.0), "β": pytest.approx(30.0)}
    rows = [said(capsys, "read", yard, AIR, "--to", "0.3", "--variant", name).splitlines()[1] for name in ("α", "β")]
    values = [float(row.split(",")[1]) for row in rows]
    assert values[1] - values[0] == pytest.approx(10.0)
    assert 'variant "γ" is not in channel lid air; it has α, β' in refused(
        capsys, "hand", yard, AIR, "--raw", "700", "--variant", "γ"
    )


@pytest.mark.parametrize("raw", ["461708", "0", "120000", "1250000"])
def test_by_the_firmware_it_is_what_the_desk_shows(
    raw: str, yard_once: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Every stage within a quarter of a last place, and the very codes that the panel is sent."""
    desk = read_json(said(capsys, "hand", yard_once, MASS, "--raw", raw, "--json", code=1))
    told = read_json(said(capsys, "hand", yard_once, MASS, "--raw", raw, "--firmware", "--json"))
    assert [each["place"] for each in told["stages"]] == [
        f"{MASS}, {each}" for each in ("Law and True", "Calm 1", "Calm 2", "Calm 3", "Calm 4")
    ]
    assert told["stages"][-1]["value"] == pytest.approx(desk["steps"][-1]["value"], abs=0.025)
    assert told["stages"][-1]["value"] == told["stages"][-1]["x"] * told["step"]
    assert told["fields"][0]["codes"] == desk["field"]["codes"]


def test_what_firmware_cannot_do_is_told(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert "its laws read stand x and stand y" in refused(
        capsys, "hand", yard_once, "stand lean", "--raw", "1", "--firmware"
    )


def test_a_channel_goes_without_the_unit_behind_its_name(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """In every command that takes one: ``volts`` for ``volts [V]``, which a shell would make a pattern of."""
    (tmp_path / "log.csv").write_text("t,volts [V],amps [A]\n" + "".join(f"{k},{1 + k / 100},2\n" for k in range(30)))
    folder = make_project(tmp_path / "log.csv", tmp_path / "log").folder
    for name in ("volts [V]", "volts", "Volts"):
        found = read_json(said(capsys, "hand", folder, name, "--raw", "1.2", "--json"))
        assert found["channel"] == "volts [V]"
    assert "volts [V]" in said(capsys, "pack", folder, "--channel", "volts", "--no-compile")
    assert said(capsys, "read", folder, "amps").splitlines()[0] == 't_s,"calm_A",mark'
    assert '"watts" is not in the project, which has volts [V], amps [A]' in refused(
        capsys, "hand", folder, "watts", "--raw", "1"
    )


def test_raw_may_be_what_a_law_between_gives(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """2.5 V at the pin of a converter at 5 V are half of its 1024 steps."""
    (tmp_path / "log.csv").write_text("t,adc\n" + "".join(f"{k},{500 + k % 30}\n" for k in range(60)))
    folder = make_project(tmp_path / "log.csv", tmp_path / "log").folder
    desk = open_desk(folder)
    desk.open_step(Step.LAW)
    desk.add("ntc 10k 3950")
    desk.save()
    desk.close()
    for typed in ("512", "2.5 V", "10 kΩ"):
        steps = read_json(said(capsys, "hand", folder, "adc", "--raw", typed, "--json"))["steps"]
        assert steps[0]["value"] == 512
    assert 'lesart: --raw "3 A": A cannot be converted to ct; give a number in ct.' in refused(
        capsys, "hand", folder, "adc", "--raw", "3 A"
    )


@pytest.mark.parametrize(("name", "raw", "code"), [("battery", "2700", 0), (MASS, "461708", 1)])
def test_in_whole_numbers_it_is_as_sure(
    name: str, raw: str, code: int, yard: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """The shares are those of the laws as they are stated, though the firmware has one table for all of them."""
    asks = ("hand", yard, name, "--raw", raw, "--sure", "--json")
    floats = read_json(said(capsys, *asks, code=code))["sure"]
    path = yard / "lesart.toml"
    path.write_text(path.read_text() + f'\n[channels."{name}".pack]\ncomputed = "whole numbers"\n')
    found = read_json(said(capsys, *asks, code=code))
    assert [each["kind"] for each in found["steps"] if each["step"] == "law"] == ["whole numbers"]
    assert found["sure"] == floats
