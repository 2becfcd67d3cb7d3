"""A command as a test speaks to it: what it prints, what it refuses, the JSON of its contract."""

from __future__ import annotations

import json
from typing import Any

import pytest

from lesart.cli.main import main

NOTE_KEYS = ["mark", "step", "channel", "text", "figure", "unit", "limit", "remedy"]
"""Of every note, in this order."""


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
