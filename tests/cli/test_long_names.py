"""Names that no file can have, and numbers without end: a sentence at every command, never a mistake of Lesart's
own."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.cli.arguments.commands import COMMANDS
from lesart.cli.main import main

NAME = "a" * 300
DIGITS = "9" * 5000
BEHIND = ((), ("x",), ("x", "--raw", "3"), ("x", "y"), ("-o", f"{NAME}.svg"), ("--to", NAME))


def _ended(arguments: list[str]) -> int:
    try:
        return main(arguments)
    except SystemExit as ended:
        return int(ended.code or 0)


@pytest.mark.parametrize("command", [name for name in COMMANDS if name not in ("rig", "completion")])
@pytest.mark.parametrize("first", [NAME, DIGITS])
def test_a_name_that_no_file_can_have(
    command: str, first: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.chdir(tmp_path)
    for behind in BEHIND:
        code = _ended([command, first, *behind])
        said = capsys.readouterr().err
        assert code == 2, (command, behind, said[-300:])
        assert "mistake of its own" not in said
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    "arguments",
    [
        ["draw", "{yard}", "raw", "hive 2 mass", "-o", f"{NAME}.svg"],
        ["pack", "{yard}", "--to", NAME],
        ["demo", "--make", NAME],
        ["demo", "--job", "hut", "--make", NAME],
        ["new", "{yard}/captures/hive-2-morning.csv", NAME],
        ["survey", "mast.local:502", "--units", DIGITS],
        ["survey", f"mast.local:{DIGITS}"],
        ["read", "{yard}", DIGITS],
        ["hand", "{yard}", "hive 2 mass", "--raw", DIGITS],
    ],
)
def test_a_name_for_what_is_written(
    arguments: list[str],
    yard: Path,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.chdir(tmp_path)
    assert _ended([each.replace("{yard}", str(yard)) for each in arguments]) == 2
    said = capsys.readouterr().err
    assert "mistake of its own" not in said
    assert len(said) < 1500
