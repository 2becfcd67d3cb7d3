"""Every worked job through every command, at ends and beyond them: an answer or a sentence, and plain words in it.

What is computed is held against other ways of getting it elsewhere; here nothing may be left out or put like a machine.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.cli.project import opened
from lesart.core.glass.bus.patterns import patterns_of
from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS
from lesart.project.model import Project
from tests.cli.spoken import read_json

LIKE_A_MACHINE = re.compile(
    r"\b(nan|inf|None|True,|False,|dtype|Fraction|array)\b(?! is)|object at 0x|mistake of its own"
    r"|(?<![\d.,;−…-])(?<! of)\b1 (pieces|references|samples|rows|items|cells|decimals|parts|gaps|days|lines|times|notes"
    r"|counts|pulses|frames|digits|points|registers|likely ones|less likely ones)\b"
    r"|\b\d[\d.]* 1(?= [a-z]| +\[|[.,;]|$)(?! to )",
    re.MULTILINE,
)
"""What no sentence holds: a number that is none, an object of the program, more than one of one, the unit 1."""
CANNOT = re.compile(r"has no references|no panel|by lines and no bus|does not say|there is nothing|has no pattern")
"""What a job need not have."""
SOON = ("counter", "gate-lamp", "moonlight")
RAW = ("0", "1", "-5", "512", "1e9")


def commands(project: Project, folder: Path, out: Path) -> Iterator[list[str]]:
    """All that print or write, of all channels and panels."""
    at = str(folder)
    yield from (
        ["check", at],
        ["check", at, "--json"],
        ["wire", at],
        ["wire", at, "--bring-up"],
        ["wire", at, "--json"],
    )
    yield from (["pace", at, "--for", "3s"], ["pace", at, "--for", "3s", "--json"], ["glass", at])
    yield ["pack", at, "--to", str(out / "firmware"), "--no-compile"]
    for view in ("wire", "pace"):
        yield ["draw", at, view, "-o", str(out / f"{view}.svg")]
    for place, name in enumerate(project.channels):
        for raw in RAW:
            yield ["hand", at, name, f"--raw={raw}"]
            yield ["hand", at, name, f"--raw={raw}", "--sure", "--json"]
        yield ["hand", at, name, "--raw=512", "--sure"]
        yield from (["read", at, name, "--from", "0", "--to", "2"], ["fit", at, name], ["fit", at, name, "--json"])
        yield from (["why", at, name, "--should", "3"], ["why", at, name, "--should", "3", "--json"])
        for view in ("raw", "law", "true", "calm", "sheet"):
            yield ["draw", at, view, "--channel", name, "-o", str(out / f"{view}-{place}.svg")]
    for place, name in enumerate(project.panels):
        yield from (["glass", at, name], ["glass", at, name, "--json"])
        for pattern in patterns_of(project.panels[name]):
            yield ["glass", at, name, "--pattern", pattern, "--step", "1"]
        yield ["trace", at, name, "-o", str(out / f"{place}.vcd")]
        for ending in ("svg", "pdf", "png"):
            yield ["draw", at, "glass", "--panel", name, "-o", str(out / f"glass-{place}.{ending}")]


def without_dots(text: str) -> str:
    """What was printed, but for pictures of dots and columns of values, which are no sentences."""
    return "\n".join(
        line for line in text.splitlines() if not re.search(r"\.\.\.|#\.|\.#|,", line) or " " in line.strip()
    )


@pytest.mark.parametrize(
    "sentence",
    [
        "law   converter     nan V   range",
        "the range in 1 pieces",
        "largest reading    9999 1   [9999]",
        "plum: 9999 1 does not fit its cells.",
        "   and 1 less likely ones",
        "its face is None",
    ],
)
def test_what_was_once_printed_is_seen(sentence: str) -> None:
    """Each stood in an answer before."""
    assert LIKE_A_MACHINE.search(without_dots(sentence))


@pytest.mark.parametrize(
    "job", [pytest.param(job, id=job.folder, marks=() if job.folder in SOON else pytest.mark.long) for job in JOBS]
)
def test_every_command_answers_in_plain_words(job: Job, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    folder = tmp_path / job.folder
    assert main(["demo", "--job", job.folder, "--make", str(folder)]) == 0
    project = opened(folder)[1]
    capsys.readouterr()
    for command in commands(project, folder, tmp_path):
        code = main(command)
        captured = capsys.readouterr()
        where = " ".join(command).replace(str(tmp_path), ".")
        assert code in (0, 1) or (code == 2 and CANNOT.search(captured.err)), f"{where}: {code}, {captured.err}"
        if "--json" in command:
            read_json(captured.out)
            continue
        found = LIKE_A_MACHINE.search(without_dots(captured.out + captured.err))
        assert found is None, f"{where}: {(captured.out + captured.err).splitlines()}"
