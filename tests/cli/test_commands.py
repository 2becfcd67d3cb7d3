"""The command line: what each command prints, the JSON contract, the exit code, and one sentence for bad input."""

from __future__ import annotations

import csv
import io
import json
import re
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from lesart.cli.main import main
from lesart.demo.yard import CAPTURE
from tests.conftest import AIR, MASS

NOTE_KEYS = ["mark", "step", "channel", "text", "figure", "unit", "limit", "remedy"]


def said(capsys: pytest.CaptureFixture[str], *arguments: object, code: int = 0) -> str:
    """What a command prints, once its exit code is right."""
    assert main([str(argument) for argument in arguments]) == code
    return capsys.readouterr().out


def refused(capsys: pytest.CaptureFixture[str], *arguments: object) -> str:
    """The sentence on standard error of a command that ends with 2 and prints nothing else."""
    assert main([str(argument) for argument in arguments]) == 2
    captured = capsys.readouterr()
    assert captured.out == ""
    assert "Traceback" not in captured.err
    return captured.err


def read_json(text: str) -> dict[str, Any]:
    """An object that says its version first and holds neither NaN nor infinity."""
    found = json.loads(text, parse_constant=lambda word: pytest.fail(f"{word} is not JSON"))
    assert next(iter(found)) == "lesart"
    assert found["lesart"] == 1
    return found


@pytest.mark.parametrize("command", ["", "demo", "open", "new", "hand", "read", "check", "draw"])
def test_help(capsys: pytest.CaptureFixture[str], command: str) -> None:
    """Every command explains itself and exits with 0."""
    with pytest.raises(SystemExit) as left:
        main([*command.split(), "--help"])
    assert left.value.code == 0
    assert len(capsys.readouterr().out) > 200


@pytest.mark.parametrize("arguments", [["nonsense"], ["hand", "x"], ["hand", "x", "y"], ["read"], ["draw", "x", "raw"]])
def test_wrong_use(arguments: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    """Wrong use ends with 2 and says what is missing or may be chosen."""
    with pytest.raises(SystemExit) as left:
        main(arguments)
    assert left.value.code == 2
    assert "usage:" in capsys.readouterr().err


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
        "reject range", "median", "mean", "hold",
    }  # fmt: skip
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


def test_check(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """All notes, faults first; 1 while there is a fault, 0 once the on-time is mended."""
    notes = read_json(said(capsys, "check", yard_once, "--json", code=1))["notes"]
    assert [list(note) for note in notes] == [NOTE_KEYS] * len(notes)
    assert [(note["mark"], note["step"]) for note in notes[:4]] == [
        ("†", "wire"), ("†", "wire"), ("†", "pace"), ("‡", "raw"),
    ]  # fmt: skip
    flicker = notes[2]
    assert (flicker["figure"], flicker["limit"], flicker["unit"]) == (pytest.approx(1000 / 24.4), 50.0, "Hz")
    assert {note["step"] for note in notes} >= {"pace", "true", "fit", "raw"}


def test_check_without_a_fault(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Exit code 0: doubts and remarks are no faults."""
    path = yard / "lesart.toml"
    text = path.read_text().replace('on_time = "6 ms"', 'on_time = "2 ms"').replace('node.p1"', 'node.p19"')
    text = text.replace("node.p17", "node.p1").replace("[wire]", '[parts.levels]\nkind = "level shifter"\n\n[wire]')
    path.write_text(re.sub(r'(pin = "door\.(?:data|clock)", to = "[^"]*")', r'\1, through = "levels"', text))
    assert "‡ True" in said(capsys, "check", yard)


def test_read(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """CSV of time, value and mark, of a part of the capture; a sample without a value has an empty cell."""
    text = said(capsys, "read", yard_once, MASS, "--from", "600", "--to", "660")
    rows = list(csv.reader(io.StringIO(text)))
    assert rows[0] == ["t_s", "calm_kg", "mark"]
    assert len(rows) == 1 + 601
    assert (float(rows[1][0]), float(rows[-1][0])) == (600.0, 660.0)
    assert all(41.0 < float(row[1]) < 43.5 for row in rows[1:])


def test_read_raw_is_the_file(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The raw step gives back the capture's own numbers, and marks the cells it does not have."""
    rows = list(csv.reader(io.StringIO(said(capsys, "read", yard_once, MASS, "--step", "raw"))))[1:]
    source = list(csv.reader((yard_once / CAPTURE).read_text().splitlines()))[1:]
    assert len(rows) == len(source)
    for mine, theirs in zip(rows, source, strict=True):
        wanted = theirs[1] if len(theirs) == 4 else ""
        assert (mine[1] and float(mine[1])) == (wanted and float(wanted))
        assert mine[2] == ("" if wanted else "missing")


def test_read_json(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Values beside a unit."""
    found = read_json(said(capsys, "read", yard_once, AIR, "--to", "1", "--json"))
    assert found["unit"] == "°C"
    assert [reading["t"] for reading in found["readings"]] == [tenth / 10 for tenth in range(11)]


@pytest.mark.parametrize("ending", ["svg", "pdf"])
@pytest.mark.parametrize("view", ["raw", "law", "true", "calm", "glass"])
def test_draw(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], view: str, ending: str) -> None:
    """Each view as a vector drawing of its kind."""
    path = tmp_path / f"view.{ending}"
    assert str(path) in said(capsys, "draw", yard_once, view, "-o", path)
    head = path.read_bytes()[:600]
    assert head.startswith(b"%PDF") if ending == "pdf" else b"<svg" in head


def test_new_finds_out(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Delimiter, decimal comma, header, time and its unit, rate and columns; the project opens and reads."""
    rows = "".join(f"{index * 20};{index % 9},5;{1000 + index}\n" for index in range(300))
    (tmp_path / "oven.csv").write_text("# from the logger\nzeit [ms];temp (°C);count\n" + rows, encoding="utf-8")
    found = read_json(said(capsys, "new", tmp_path / "oven.csv", tmp_path / "oven", "--json"))
    assert found == {
        "lesart": 1, "folder": str(tmp_path / "oven"), "format": "csv", "delimiter": ";", "decimal": ",", "header": 2,
        "time": "zeit [ms]", "time_unit": "ms", "rate_hz": pytest.approx(50.0), "rows": 300, "bad_rows": 0,
        "channels": ["temp (°C)", "count"],
    }  # fmt: skip
    assert said(capsys, "read", tmp_path / "oven", "temp (°C)", "--to", "0.02").splitlines()[1:] == [
        "0.0,0.5,", "0.02,1.5,",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["hand", "{yard}", "hive 9", "--raw", "1"], 'channel "hive 9" is not in the project; it has hive 2 mass, lid air'),
        (["hand", "{yard}", MASS, "--raw", "much"], "give a number in ct"),
        (["hand", "{yard}", MASS, "--raw", "3 kg"], "kg cannot be converted to ct"),
        (["hand", "{yard}", MASS, "--reading", "3 V"], "V cannot be converted to kg"),
        (["hand", "{yard}", MASS, "--raw", "1", "--panel", "gate"], 'panel "gate" is not in the project; it has stand, door'),
        (["read", "{yard}", MASS, "--from", "9", "--to", "3"], "--from 9 is after --to 3"),
        (["check", "{tmp}"], "there is no lesart.toml in it"),
        (["check", "{tmp}/nowhere"], "there is no such folder"),
        (["open", "{yard}"], "a full screen needs a terminal"),
        (["draw", "{yard}", "raw", "-o", "{tmp}/x.png"], "a drawing ends in .svg or .pdf"),
        (["draw", "{yard}", "glass", "--panel", "gate", "-o", "{tmp}/x.svg"], "it has stand, door"),
        (["draw", "{yard}", "raw", "-o", "{tmp}/file/x.svg"], "it cannot be written"),
        (["new", "{tmp}/nothing.csv"], "it cannot be read (No such file or directory)"),
        (["new", "{tmp}/empty.csv"], "it is empty; a capture holds rows of numbers"),
        (["new", "{tmp}/binary.csv"], "byte 3 is 0, so it is binary"),
        (["new", "{tmp}/prose.csv"], 'no rows of numbers were found; the first line is "once upon'),
        (["new", "{tmp}/good.csv", "{yard}"], "it is there already; name another folder"),
        (["new", "{tmp}"], "it cannot be read (Is a directory)"),
    ],
)  # fmt: skip
def test_bad_input(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], arguments: list[str], says: str
) -> None:
    """One clear sentence with place, value and what would be right; 2; no traceback."""
    (tmp_path / "empty.csv").write_text("")
    (tmp_path / "file").write_text("")
    (tmp_path / "binary.csv").write_bytes(b"abc\0def")
    (tmp_path / "prose.csv").write_text("once upon a time\nthere was no number\n")
    (tmp_path / "good.csv").write_text("a,b\n1,2\n3,4\n")
    told = refused(capsys, *(each.format(yard=yard_once, tmp=tmp_path) for each in arguments))
    assert says in told
    assert told.startswith("lesart: ")
    assert told.count("\n") == 1


def test_a_broken_project_names_every_problem(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A wrong key, a wrong unit, a wrong range, a reference without a value: a sentence each."""
    path = yard / "lesart.toml"
    text = path.read_text()
    for good, bad in (
        ("bits = 24", "bitts = 24"), ('capacity = "200 kg"', 'capacity = "0 kg"'),
        ('sensitivity = "2 mV/V ± 0.5 %"', 'sensitivity = "2 mA"'), ('true = "10.000 kg", ', ""),
    ):  # fmt: skip
        assert good in text
        text = text.replace(good, bad, 1)
    path.write_text(text)
    lines = refused(capsys, "check", yard).splitlines()
    wanted = (
        "law[0].bitts = 24; this key is not known here; did you mean bits?",
        'law[1].capacity = "0 kg"; it must be a number with its unit, like "2.5 kg", above 0',
        'law[1].sensitivity = "2 mA"; it must be a number with its unit, like "2.5 mV/V", above 0',
        "true.references[1].true; it is missing; it must be a number with its unit",
    )
    assert len(lines) == len(wanted)
    for line, says in zip(lines, wanted, strict=True):
        assert line.startswith(f"lesart: lesart.toml: channels.hive 2 mass.{says}")


def test_light_commands_import_little() -> None:
    """``--help`` needs no array library; ``hand`` needs neither a plotting nor an editing one."""
    for arguments, heavy in (
        (["--help"], {"numpy", "textual", "matplotlib", "tomlkit"}),
        (["hand", "nowhere", "x", "--raw", "1"], {"textual", "matplotlib", "tomlkit", "scipy"}),
    ):
        code = (
            "import sys, atexit\n"
            f"atexit.register(lambda: print(sorted(set({sorted(heavy)!r}) & set(sys.modules)), file=sys.stderr))\n"
            f"from lesart.cli.main import main\nsys.exit(main({arguments!r}))"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
        assert done.stderr.splitlines()[-1] == "[]", done.stderr


def test_a_reader_that_leaves_early(yard_once: Path) -> None:
    """``lesart read … | head`` ends without a word on standard error."""
    lesart = Path(sys.executable).with_name("lesart")
    reading = subprocess.Popen(
        [lesart, "read", yard_once, MASS], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    )
    assert reading.stdout is not None
    assert reading.stdout.readline() == 't_s,"calm_kg",mark\n'
    reading.stdout.close()
    assert reading.stderr is not None
    assert reading.stderr.read() == ""
    started = time.monotonic()
    reading.wait(timeout=60)
    assert time.monotonic() - started < 60


def test_wire(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Connections and faults in text, in JSON and as CSV; 1 while a fault is among them."""
    text = said(capsys, "wire", yard_once, "--csv", tmp_path / "joins.csv", code=1)
    assert re.search(r"^gate\.out +node\.p17 +violet$", text, re.MULTILINE)
    assert re.search(r"^node\.a2 +node\.3V3 +red +through brood half$", text, re.MULTILINE)
    assert "† Wire  door pulls the bus up to 5 V" in text
    assert len((tmp_path / "joins.csv").read_text().splitlines()) == 39
    found = read_json(said(capsys, "wire", yard_once, "--json", code=1))
    assert {"name": "door", "kind": "two-wire character display", "address": 0x27} in found["parts"]
    assert found["joins"][15] == {
        "pin": "node.a2", "to": "node.3V3", "role": None, "through": "brood half", "colour": "red",
    }  # fmt: skip
    assert [note["step"] for note in found["notes"]] == ["wire"] * 3
    rail = next(check for check in found["bring_up"] if check["key"] == "node.3V3 volts")
    assert (rail["lowest"], rail["highest"], rail["unit"]) == (pytest.approx(3.135), pytest.approx(3.465), "V")
    assert (rail["measured"], rail["good"]) == ("3.31 V", True)
    short = next(check for check in found["bring_up"] if check["key"] == "node.5V short")
    assert (short["highest"], short["measured"], short["good"]) == (None, None, None)


def test_wire_brings_up(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The list in order, ticked where it was measured."""
    lines = said(capsys, "wire", yard_once, "--bring-up", code=1).splitlines()
    assert len(lines) == 30
    assert (
        "✓ Power on, nothing but the board: voltage at node.3V3. Right: 3.13 to 3.46 V. Measured: 3.31 V." in lines[9]
    )


def test_wire_proposes(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Parts in the file, joined in one step; what finds no place is said; a second time nothing is left."""
    folder = tmp_path / "bench"
    folder.mkdir()
    (folder / "lesart.toml").write_text(
        'lesart = 1\n# mine\n[parts.node]\nkind = "3.3 V computer"\n[parts.lid]\nkind = "two-wire module"\n'
        '[parts.cold]\nkind = "analog sensor"\n'
    )
    first = said(capsys, "wire", folder, "--propose", code=1)
    assert re.search(r"^lid\.data +node\.p15", first, re.MULTILINE)
    assert first.splitlines()[0].startswith("cold.out")
    written = (folder / "lesart.toml").read_text()
    assert "# mine" in written
    said(capsys, "wire", folder, "--propose", code=1)
    assert (folder / "lesart.toml").read_text() == written


def test_wire_prints_a_kind(capsys: pytest.CaptureFixture[str]) -> None:
    assert '{ name = "data", role = "two-wire data", pull_up = "10 kΩ" }' in said(
        capsys, "wire", "--kind", "two-wire module"
    )
    assert "the catalogue has 3.3 V board" in refused(capsys, "wire", "--kind", "magic")
    assert "name the project's folder" in refused(capsys, "wire")


@pytest.mark.parametrize("ending", ["svg", "pdf"])
def test_draw_the_hookup(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], ending: str) -> None:
    path = tmp_path / f"sheet.{ending}"
    said(capsys, "draw", yard_once, "wire", "-o", path)
    assert path.stat().st_size > 10_000


AIR_TRACE_ARGUMENTS = ("--as", "bits by length", "--set", "shortest=5 µs", "--set", "check=sum")


def test_decode_lists_signals_and_frames(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Without a decoder the signals; with one a line a frame, fields by name, 1 because some are broken."""
    trace = yard_once / "captures/yard-air.vcd"
    listed = list(csv.reader(io.StringIO(said(capsys, "decode", trace))))
    assert listed[0] == ["signal", "edges", "lasts_s"]
    assert (listed[1][0], listed[1][2]) == ("air", "7200.0")
    fields = ("--field", "humidity=0,16,scale=0.1", "--field", "temperature=16,16,sign-bit,scale=0.1")
    rows = list(csv.reader(io.StringIO(said(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, *fields, code=1))))
    assert rows[0] == ["t", "kind", "bytes", "mark", "why", "humidity", "temperature"]
    assert len(rows) == 121
    assert rows[1][2:] == ["03 0c 00 72 81", "", "", "78.0", "11.4"]
    assert rows[18][2:5] == ["", "missing", "no bit came: nobody answered"]


def test_decode_json_and_bits(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """One object a line; bits with their margins."""
    trace = yard_once / "captures/yard-air.vcd"
    lines = said(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, "--json", code=1).splitlines()
    first = json.loads(lines[0])
    assert list(first) == ["t", "kind", "bytes", "mark", "why"]
    bits = [json.loads(line) for line in said(
        capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, "--bits", "--json", code=1).splitlines()]  # fmt: skip
    assert "".join(str(bit["value"]) for bit in bits[:16]) == f"{0x030C:016b}"
    assert all(0 < bit["margin"] < 1 for bit in bits)
    beam = yard_once / "captures/gate-beam.vcd"
    counted = said(capsys, "decode", beam, "--as", "gate count", "--set", "gate=60 s", "--set", "shortest=1 ms")
    assert counted.splitlines()[0] == "t,kind,value,mark"


def test_decode_says_what_would_be_right(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    trace = yard_once / "captures/yard-air.vcd"
    assert "there are pulse width, pulse interval, gate count" in refused(capsys, "decode", trace, "--as", "magic")
    assert "decode.baud = -1" in refused(capsys, "decode", trace, "--as", "serial bytes", "--set", "baud=-1")
    assert "write it KEY=VALUE" in refused(capsys, "decode", trace, "--as", "serial bytes", "--set", "baud")
    assert "write it NAME=FIRST,BITS" in refused(capsys, "decode", trace, "--as", "bits by length", "--field", "a")
    assert 'line = "tx"; the signals' in refused(
        capsys, "decode", trace, "--as", "serial bytes", "--line", "tx", "--set", "baud=9600"
    )


def test_new_from_other_files(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Lines of JSON with their time found, a sound by its own rate, a trace with what is decoded in it."""
    lines = tmp_path / "tank.jsonl"
    lines.write_text("".join(f'{{"ms": {place * 100}, "level": {5 + place / 8}}}\n' for place in range(50)))
    text = said(capsys, "new", lines, tmp_path / "tank")
    assert "json lines, 50 samples, 10 Hz" in text
    made = (tmp_path / "tank/lesart.toml").read_text()
    assert 'time = "ms"' in made
    assert 'time_unit = "ms"' in made
    text = said(capsys, "new", yard_once / "captures/yard-air.vcd", tmp_path / "air", "--as", "bits by length")
    assert "vcd, 120 samples, 2 of them bad, 0.01667 Hz" in text
    assert "‡ Raw" in said(capsys, "check", tmp_path / "air")
    found = read_json(said(capsys, "new", yard_once / "captures/gate-beam.vcd", tmp_path / "gate", "--json"))
    assert (found["format"], found["delimiter"], found["channels"]) == ("vcd", None, ["beam"])
    assert "no decoder; there are" in refused(
        capsys, "new", yard_once / "captures/yard-air.vcd", tmp_path / "x", "--as", "x"
    )
    assert "no trace of edges" in refused(capsys, "new", lines, tmp_path / "y", "--as", "pulse width")


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
    assert "95 of 100 times" in text
    assert "nobody can say" in said(capsys, "hand", yard_once, "wind from", "--raw", "100", "--sure", code=0)


@pytest.mark.parametrize("ending", ["svg", "pdf"])
def test_draw_a_calibration_sheet(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], ending: str
) -> None:
    """Points, residuals, fit and coverage on one page; the points as a table for other programs."""
    path = tmp_path / f"sheet.{ending}"
    said(capsys, "draw", yard_once, "sheet", "-o", path)
    if ending == "svg":
        text = path.read_text(encoding="utf-8")
        for words in ("calibration", "40.449", "−0.00671", "known from 0 kg to 40.002 kg", "chosen, proposed", "08:27"):
            assert words in text, words
    else:
        assert path.read_bytes().startswith(b"%PDF")


def test_the_points_of_a_calibration_as_csv(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """One row a reference, with the unit in the heading; residuals are those of the fit."""
    path = tmp_path / "points.csv"
    said(capsys, "draw", yard_once, "sheet", "-o", path)
    rows = list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))
    assert [float(row["true / kg"]) for row in rows] == [0.0, 10.0, 20.0, 40.0]
    assert [row["taken"] for row in rows] == ["08:10", "08:14", "08:19", "08:27"]
    for row in rows:
        assert float(row["before / kg"]) == pytest.approx(float(row["indicated / kg"]) - float(row["true / kg"]))
        assert abs(float(row["after / kg"])) < 0.01
    assert "there is nothing to draw" in refused(capsys, "draw", yard_once, "sheet", "--channel", "lid air", "-o",
                                                 tmp_path / "x.svg")  # fmt: skip


def test_a_variant_by_name(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """hand and read take it; without one it is the channel itself; a wrong one is told those there are."""
    file = yard / "lesart.toml"
    text = file.read_text(encoding="utf-8")
    file.write_text(
        f'{text}\n[[channels."lid air".variants."β".law]]\nkind = "linear"\ninput = "400 mV"\noutput = "0 °C"\n'
        'slope = "10 mV/°C"\n', encoding="utf-8",
    )  # fmt: skip
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
