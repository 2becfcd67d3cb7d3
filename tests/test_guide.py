"""The guide's examples do what the guide says, and every command that a page for people names is one."""

from __future__ import annotations

import re
import shlex
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from lesart.cli.arguments.commands import COMMANDS
from lesart.cli.arguments.reading import command_parser
from lesart.cli.main import main

ROOT = Path(__file__).resolve().parent.parent
DOCS = ROOT / "docs"
PAGES = sorted(path for path in DOCS.rglob("*.md") if path.parent.name != "jobs")
FILE = re.compile(r"^`([\w./-]+)`:\n\n```\w*\n(.*?)^```", re.MULTILINE | re.DOTALL)
EXAMPLES = re.compile(r"^```console\n(.*?)^```", re.MULTILINE | re.DOTALL)
LEFT_OUT = "…"


def examples_of(page: Path) -> list[tuple[str, list[str]]]:
    """Each command of a page with the lines that stand below it."""
    found: list[tuple[str, list[str]]] = []
    for block in EXAMPLES.findall(page.read_text(encoding="utf-8")):
        for line in block.splitlines():
            if line.startswith("$ "):
                found.append((line[2:], []))
            else:
                found[-1][1].append(line)
    return found


def as_pattern(lines: list[str]) -> str:
    """For what is printed; … stands for any lines or none."""
    parts = ["(?:.*\n)*?" if line == LEFT_OUT else re.escape(line) + "\n" for line in lines]
    return "".join(parts)


WITH_EXAMPLES = [page for page in PAGES if examples_of(page)]


@pytest.mark.parametrize("page", WITH_EXAMPLES, ids=lambda page: page.stem)
def test_what_a_page_shows_is_what_is_printed(
    page: Path, yard_once: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """In a folder with the yard and the files that the page has, one command after the other."""
    monkeypatch.chdir(tmp_path)
    monkeypatch.setenv("COLUMNS", "120")
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    for name, content in FILE.findall(page.read_text(encoding="utf-8")):
        (tmp_path / name).write_text(content)
    for command, lines in examples_of(page):
        assert command.startswith("lesart "), command
        assert main(shlex.split(command)[1:]) <= 1, command
        printed = "".join(f"{line.rstrip()}\n" for line in capsys.readouterr().out.splitlines())
        assert re.fullmatch(as_pattern(lines), printed), f"$ {command}\n{printed}"


def test_the_steps_have_pages_with_examples() -> None:
    """Each of the nine, and the first one."""
    steps = ["first", "wire", "raw", "law", "true", "calm", "fit", "glass", "pace", "pack"]
    assert {page.stem for page in WITH_EXAMPLES if page.parent.name == "guide"} == set(steps)


def commands_in(text: str) -> list[str]:
    """All that stand alone on a line, as code, and what follows ``#`` taken off."""
    lines = re.findall(r"^(?: {4}|\$ )(lesart [^\n]*)", text, re.MULTILINE)
    return [line.split("  #")[0].strip() for line in lines]


@pytest.mark.parametrize("page", [ROOT / "README.md", *PAGES], ids=lambda page: page.stem)
def test_every_command_of_a_page_can_be_read(page: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """By the parser that reads what is typed: a page that names an option names one there is."""
    for command in commands_in(page.read_text(encoding="utf-8")):
        name, *given = shlex.split(command.replace(" | HOST:PORT | -", ""))[1:]
        assert name in COMMANDS, command
        try:
            command_parser(name).parse_intermixed_args([f" {x}" if re.match(r"-\.?\d", x) else x for x in given])
        except SystemExit:
            pytest.fail(f"{page.name}: {command}: {capsys.readouterr().err}")


def test_the_site_is_built_with_no_link_broken(tmp_path: Path) -> None:
    """A link to a page, a picture or a heading that is not there is an error; none leads out."""
    done = subprocess.run(
        [sys.executable, "-m", "mkdocs", "build", "--strict", "--quiet", "--site-dir", str(tmp_path / "site")],
        cwd=ROOT,
        capture_output=True,
        text=True,
        timeout=120,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert (tmp_path / "site/guide/true/index.html").exists()
    # It is whole without a network, and names nobody else.
    pages = list((tmp_path / "site").rglob("*.html"))
    led_out = {found for page in pages for found in re.findall(r'(?:href|src)="(https?://[^"]*)"', page.read_text())}
    assert len(pages) > 40
    assert led_out == set()
