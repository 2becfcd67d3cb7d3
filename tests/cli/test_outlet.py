"""What commands print: nothing in it steers a terminal, every encoding will do, and each ending has its code."""

from __future__ import annotations

import gc
import io
import json
import os
import re
import subprocess
import sys
import warnings
from pathlib import Path

import pytest

from lesart.cli import check as check_command
from lesart.cli.arguments.commands import COMMANDS
from lesart.cli.arguments.reading import read_arguments
from lesart.cli.main import main
from lesart.cli.printed.outlet import Outlet
from lesart.core.errors import StorageError

STEERS = "a\x1b]0;owned\x07b\x9b31m\u202e\u200bc\x7f"
"""An escape sequence, its one-byte form, a turn of the direction of writing, what cannot be seen, a deletion."""


def printed(text: str, encoding: str = "utf-8") -> bytes:
    """What an outlet makes of it, as bytes."""
    sink = io.BytesIO()
    stream = io.TextIOWrapper(sink, encoding)
    outlet = Outlet(stream, "standard output")  # type: ignore[arg-type]
    print(text, file=outlet)
    outlet.flush()
    return sink.getvalue()


def test_text_from_anywhere_is_shown_not_obeyed() -> None:
    """Each as it would be written in a program; line ends and tabs are what they are."""
    assert printed(STEERS).decode() == "a\\x1b]0;owned\\x07b\\u009b31m\\u202e\\u200bc\\u007f\n"
    assert printed("one\ttwo\nthree").decode() == "one\ttwo\nthree\n"
    assert printed("\udcff").decode() == "\\udcff\n"  # of a file's name that is not an UTF-8
    assert json.loads(printed(json.dumps({"a": STEERS}, ensure_ascii=False)).decode())["a"] == STEERS


@pytest.mark.parametrize("encoding", ["ascii", "latin-1", "cp1252", "cp437", "koi8-r"])
def test_what_an_encoding_lacks_is_written_another_way(encoding: str) -> None:
    """Lesart's own signs get plain ones, other letters lose their marks, what is left gets its code; nothing fails."""
    text = "† −5 °C ± 2 µV → Ω ✓ ö ф 蜂"
    written = printed(text, encoding).decode(encoding)
    assert "\N{REPLACEMENT CHARACTER}" not in written
    assert written.startswith("(!) -5 " if encoding != "cp1252" else "† -5 ")
    assert written.endswith("\\u8702\n")
    if encoding == "ascii":
        assert written == "(!) -5 degC +/- 2 uV -> Ohm ok o \\u0444 \\u8702\n"


def test_an_outlet_goes_after_its_stream(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing is complained of when it is collected, and its stream is left to whoever owns it."""
    complaints: list[object] = []
    monkeypatch.setattr(sys, "unraisablehook", complaints.append)
    path = tmp_path / "out"
    with path.open("w") as stream:
        outlet = Outlet(stream, "standard output")
        outlet.write("all of it")
    outlet.close()
    assert path.read_text() == "all of it"
    del outlet
    gc.collect()
    assert complaints == []


def test_a_full_disk_is_a_sentence(tmp_path: Path) -> None:
    """Standard output that takes no more ends the command with 2, and a reader who has seen enough with 0."""
    outlet = Outlet(open("/dev/full", "w", encoding="utf-8"), "standard output")  # type: ignore[arg-type]  # noqa: SIM115
    with pytest.raises(StorageError, match="standard output: it cannot be written \\(No space left on device\\)"):
        outlet.write("x" * 100_000)
    command = [sys.executable, "-m", "lesart", "law"]
    with open("/dev/full", "w", encoding="utf-8") as full:
        done = subprocess.run(command, stdout=full, stderr=subprocess.PIPE, text=True, check=False, timeout=60)
    assert done.returncode == 2
    assert done.stderr == "lesart: standard output: it cannot be written (No space left on device).\n"
    head = subprocess.run(
        f"{sys.executable} -m lesart law | head -1", shell=True, capture_output=True, text=True, check=False, timeout=60
    )
    assert (head.returncode, head.stderr) == (0, "")


SPOKEN = (["check"], ["check", "--json"], ["pace", "--for", "1s", "--json"], ["wire"])
IN_ONE = """
import sys
from lesart.cli.main import main
for arguments in {all!r}:
    code = main([arguments[0], {folder!r}, *arguments[1:]])
    assert code in (0, 1), code
    print("\\f")
"""
"""Commands one after another in one process: starting it is what takes the time."""


@pytest.mark.long
@pytest.mark.parametrize("encoding", ["latin-1", "cp1252", "ascii"])
def test_every_command_speaks_every_encoding(yard_once: Path, encoding: str) -> None:
    """Text with other signs; JSON with escapes, so that names stay what they are."""
    environment = {**os.environ, "PYTHONIOENCODING": encoding}
    command = [sys.executable, "-c", IN_ONE.format(all=SPOKEN, folder=str(yard_once))]
    done = subprocess.run(command, env=environment, capture_output=True, check=False, timeout=120)
    assert (done.returncode, done.stderr) == (0, b"")
    said = done.stdout.decode(encoding).split("\f\n")
    assert len(said) == len(SPOKEN) + 1
    for arguments, text in zip(SPOKEN, said, strict=False):
        assert text
        if "--json" in arguments:
            assert "†" in {note.get("mark") for note in json.loads(text).get("notes", [{"mark": "†"}])}


@pytest.mark.long
def test_escapes_in_names_reach_no_terminal(tmp_path: Path, yard: Path, capfd: pytest.CaptureFixture[str]) -> None:
    """A stranger's project, its names full of escapes: whatever a command prints of it, in text, in JSON or as an error,
    no control character comes out."""
    text = (yard / "lesart.toml").read_text().replace("hive 2 mass", r"mass\u001b]0;owned\u0007\u009b31m")
    for name in ("stand", "door", "lid"):
        text = re.sub(rf'(?<=panels\.){name}\b|(?<=panel = "){name}(?=")', f'"{name}\\\\u001b[31m"', text).replace(
            f'panel = ""{name}\\u001b[31m""', f'panel = "{name}\\u001b[31m"'
        )
    (yard / "lesart.toml").write_text(text)
    channel, panel = "mass\x1b]0;owned\x07\x9b31m", "stand\x1b[31m"
    out = str(tmp_path / "out")
    runs: list[list[str]] = [
        ["check"],
        ["check", "--json"],
        ["pace", "--for", "1s"],
        ["pace", "--for", "1s", "--json"],
        ["wire"],
        ["wire", "--json"],
        ["wire", "--bring-up"],
        ["glass"],
        ["glass", panel],
        ["glass", panel, "--json"],
        ["fit", channel],
        ["fit", channel, "--json"],
        ["hand", channel, "--raw", "457795"],
        ["hand", channel, "--raw", "457795", "--json"],
        ["hand", channel, "--raw", "457795", "--sure"],
        ["read", channel, "--from", "1", "--to", "2"],
        ["read", channel, "--from", "1", "--to", "2", "--json"],
        ["read", "no such"],
        ["hand", "no such", "--raw", "1"],
        ["fit", "no such"],
        ["glass", "no such"],
        ["draw", "raw", "-o", out + ".svg"],
        ["trace", panel, "-o", out + ".vcd"],
        ["trace", "no such", "-o", out + "2.vcd"],
        ["draw", "glass", "--panel", "no such", "-o", out + "3.svg"],
        ["record", "no such"],
        ["survey", "no such"],
    ]
    for name, *rest in runs:
        at = ["--project", str(yard)] if name == "survey" else [str(yard)]
        code = main([name, *at[:1], *rest] if name != "survey" else [name, *rest, *at])
        written = capfd.readouterr()
        assert code in (0, 1, 2), (name, rest)
        for part in (written.out, written.err):
            assert not re.search(r"[\x00-\x08\x0b-\x1f\x7f-\x9f]", part), (name, rest)
        assert "Traceback" not in written.err


def test_a_mistake_of_lesart_s_own_has_its_code(
    yard_once: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """3, a sentence, and a report with the trace; never 1, which means that a note is marked †."""

    def wrong(_: object) -> int:
        raise KeyError("nobody thought of this")

    monkeypatch.setattr(check_command, "run", wrong)
    assert main(["check", str(yard_once)]) == 3
    said = capsys.readouterr().err
    report = re.fullmatch(r"lesart: Lesart made a mistake of its own; (\S+) says what happened\.\n", said)
    assert report is not None
    path = Path(report[1])
    assert "nobody thought of this" in path.read_text()
    assert path.stat().st_mode & 0o077 == 0
    path.unlink()


@pytest.mark.parametrize(
    "given",
    [
        ["law", "platinum", "--inverse", "100"],
        ["law", "--inverse", "platinum", "100"],
        ["law", "platinum", "100", "--inverse"],
        ["law", "platinum", "--inverse", "--", "100"],
    ],
)
def test_options_stand_anywhere(given: list[str]) -> None:
    options = read_arguments(given)
    assert (options.command, options.kind, options.values, options.inverse) == ("law", "platinum", ["100"], True)


def test_numbers_below_zero_are_no_options() -> None:
    """With a unit too, and as the value of an option."""
    options = read_arguments(["law", "linear", "-5mV", "--set", "input=500 mV", "-.5", "-40 °C"])
    assert [value.strip() for value in options.values] == ["-5mV", "-.5", "-40 °C"]
    assert read_arguments(["hand", "p", "--reading", "-1.26kg", "mass"]).reading.strip() == "-1.26kg"
    assert read_arguments(["read", "p", "--from", "-3", "mass"]).start == -3.0


@pytest.mark.parametrize("name", COMMANDS)
def test_every_command_explains_itself(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    """And refuses an option that it does not have, with 2."""
    for given, code in (([name, "--help"], 0), ([name, "--no-such-option"], 2)):
        with pytest.raises(SystemExit) as ended:
            main(given)
        assert ended.value.code == code
        written = capsys.readouterr()
        assert f"usage: lesart {name}" in written.out + written.err


def test_what_libraries_say_to_programmers_is_said_to_nobody(
    monkeypatch: pytest.MonkeyPatch, recwarn: pytest.WarningsRecorder
) -> None:
    """Across a screen it would stand until the next picture."""

    def warned(_: object) -> int:
        warnings.warn("overflow encountered in power", RuntimeWarning, stacklevel=1)
        return 0

    monkeypatch.setattr("lesart.cli.main._run", warned)
    monkeypatch.setattr("sys.warnoptions", [])
    assert main([]) == 0
    assert len(recwarn) == 0
