"""The command line: what each command prints, the JSON contract, the exit code, and one sentence for bad input."""

from __future__ import annotations

import csv
import io
import re
import subprocess
import sys
import time
from pathlib import Path

import pytest

from lesart.cli.arguments.commands import COMMANDS
from lesart.cli.main import main
from lesart.demo.yard import CAPTURE
from tests.cli.spoken import NOTE_KEYS, read_json, refused, said
from tests.conftest import AIR, MASS


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


def test_check(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """All notes, faults first; 1 while there is a fault."""
    notes = read_json(said(capsys, "check", yard_once, "--json", code=1))["notes"]
    assert [list(note) for note in notes] == [NOTE_KEYS] * len(notes)
    assert [(note["mark"], note["step"]) for note in notes[:7]] == [
        ("†", "wire"),
        ("†", "wire"),
        *[("†", "pace")] * 4,
        ("‡", "raw"),
    ]
    flicker = notes[2]
    assert (flicker["figure"], flicker["limit"], flicker["unit"]) == (pytest.approx(1000 / 24.4), 50.0, "Hz")
    assert {note["step"] for note in notes} >= {"pace", "true", "fit", "raw"}


def test_check_without_a_fault(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Exit code 0: doubts and remarks are no faults."""
    path = yard / "lesart.toml"
    text = path.read_text().replace('on_time = "6 ms"', 'on_time = "2 ms"').replace('node.p1"', 'node.p19"')
    text = text.replace('runs = "in the loop"', 'runs = "by interrupt"')
    text = re.sub(r"\[panels\.\w+\.trace\]\n(?:\w+ = .*\n)+", "", text)
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


def test_new_finds_out(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Delimiter, decimal comma, header, time and its unit, rate and columns; the project opens and reads."""
    rows = "".join(f"{index * 20};{index % 9},5;{1000 + index}\n" for index in range(300))
    (tmp_path / "oven.csv").write_text("# from the logger\nzeit [ms];temp (°C);count\n" + rows, encoding="utf-8")
    found = read_json(said(capsys, "new", tmp_path / "oven.csv", tmp_path / "oven", "--json"))
    assert found == {
        "lesart": 1,
        "folder": str(tmp_path / "oven"),
        "format": "csv",
        "delimiter": ";",
        "decimal": ",",
        "header": 2,
        "time": "zeit [ms]",
        "time_unit": "ms",
        "clock": None,
        "rate_is_assumed": False,
        "said": [],
        "rate_hz": pytest.approx(50.0),
        "rows": 300,
        "bad_rows": 0,
        "channels": ["temp (°C)", "count"],
    }
    assert said(capsys, "read", tmp_path / "oven", "temp (°C)", "--to", "0.02").splitlines()[1:] == [
        "0.0,0.5,",
        "0.02,1.5,",
    ]


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (
            ["hand", "{yard}", "hive 9", "--raw", "1"],
            'channel "hive 9" is not in the project, which has hive 2 mass, lid air',
        ),
        (["hand", "{yard}", MASS, "--raw", "much"], "give a number in ct"),
        (["hand", "{yard}", MASS, "--raw", "3 kg"], "is a reading; --reading takes it"),
        (["hand", "{yard}", MASS, "--reading", "3 V"], "V cannot be converted to kg"),
        (
            ["hand", "{yard}", MASS, "--raw", "1", "--panel", "loft"],
            'panel "loft" is not in the project, which has stand, door',
        ),
        (["read", "{yard}", MASS, "--from", "9", "--to", "3"], "--from 9 is after --to 3"),
        (["check", "{tmp}"], "there is no lesart.toml in it"),
        (["check", "{tmp}/nowhere"], "there is no such folder"),
        (["open", "{yard}"], "a full screen needs a terminal"),
        (["draw", "{yard}", "raw", "-o", "{tmp}/x.png"], "a drawing of raw ends in .svg or .pdf"),
        (["draw", "{yard}", "glass", "--panel", "loft", "-o", "{tmp}/x.svg"], "which has stand, door"),
        (["draw", "{yard}", "raw", "-o", "{tmp}/file/x.svg"], "it cannot be written"),
        (["new", "{tmp}/nothing.csv"], "it cannot be read (No such file or directory)"),
        (["new", "{tmp}/empty.csv"], "it is empty; a capture holds rows of numbers"),
        (["new", "{tmp}/binary.csv"], "byte 3 is 0, so it is binary"),
        (["new", "{tmp}/prose.csv"], 'no rows of numbers were found; the first line is "once upon'),
        (["new", "{tmp}/good.csv", "{yard}"], "it already exists; name another folder"),
        (["new", "{tmp}"], "it is a folder; a regular file is needed"),
    ],
)
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
        ("bits = 24", "bitts = 24"),
        ('capacity = "200 kg"', 'capacity = "0 kg"'),
        ('sensitivity = "2 mV/V ± 0.5 %"', 'sensitivity = "2 mA"'),
        ('true = "10.000 kg", ', ""),
    ):
        assert good in text
        text = text.replace(good, bad, 1)
    path.write_text(text)
    lines = refused(capsys, "check", yard).splitlines()
    wanted = (
        "law[0].bitts = 24; this key is not known here; did you mean bits?",
        'law[1].capacity = "0 kg"; it must be a number with its unit, like "2.5 kg", above 0',
        'law[1].sensitivity = "2 mA"; it must be a number with its unit, like "2.5 mV/V", above 0',
        "true.references[1].true: it is missing; it must be a number with its unit",
    )
    assert len(lines) == len(wanted)
    for line, says in zip(lines, wanted, strict=True):
        number, _, said = line.removeprefix("lesart: lesart.toml:").partition(": ")
        assert said.startswith(f"channels.hive 2 mass.{says}")
        # The line that an editor jumps to is the one that is wrong, or where what is missing belongs.
        stands = (yard / "lesart.toml").read_text(encoding="utf-8").splitlines()[int(number) - 1]
        assert said.split(";")[0].split(" = ")[0].split(".")[-1] in stands or "references" in stands


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
        "pin": "node.a2",
        "to": "node.3V3",
        "role": None,
        "through": "brood half",
        "colour": "red",
    }
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


def test_new_from_other_files(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Lines of JSON with their time found, a sound by its own rate, a trace with what is decoded in it."""
    lines = tmp_path / "tank.jsonl"
    lines.write_text("".join(f'{{"ms": {place * 100}, "level": {5 + place / 8}}}\n' for place in range(50)))
    text = said(capsys, "new", lines, tmp_path / "tank")
    assert 'json lines, 50 samples, time "ms" as ms, 10 Hz. Channels: level.' in text
    made = (tmp_path / "tank/lesart.toml").read_text()
    assert 'time = "ms"' in made
    assert 'time_unit = "ms"' in made
    text = said(capsys, "new", yard_once / "captures/yard-air.vcd", tmp_path / "air", "--as", "bits by length")
    assert "vcd, 120 samples, 4 of them bad, every 60 s" in text
    assert "‡ Raw" in said(capsys, "check", tmp_path / "air")
    found = read_json(said(capsys, "new", yard_once / "captures/gate-beam.vcd", tmp_path / "gate", "--json"))
    assert (found["format"], found["delimiter"], found["channels"]) == ("vcd", None, ["pulses"])
    assert "not a decoder; there are" in refused(
        capsys, "new", yard_once / "captures/yard-air.vcd", tmp_path / "x", "--as", "x"
    )
    assert "not a trace of edges" in refused(capsys, "new", lines, tmp_path / "y", "--as", "pulse width")


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish", "tcsh"])
def test_a_shell_completes_every_command(shell: str, capsys: pytest.CaptureFixture[str]) -> None:
    """What it is given names each of them, and an option of one; bash takes it as it is."""
    text = said(capsys, "completion", shell)
    assert [name for name in COMMANDS if name not in text] == []
    assert "bring-up" in text or shell == "tcsh"
    if shell == "bash":
        subprocess.run(["bash", "-n"], input=text, text=True, check=True, timeout=30)
