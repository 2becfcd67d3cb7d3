"""A project from a stranger reads and writes in its own folder, until somebody at this computer allows it more."""

from __future__ import annotations

import io
from pathlib import Path

import pytest

from lesart.core.errors import ProjectError
from lesart.project.assets.named import Assets
from lesart.project.check import check_project
from lesart.project.folder.borders import WRITTEN_INTO, allow, is_allowed, leads_to
from lesart.project.named_files import named_files
from tests.cli.spoken import refused, said

SECRET = "t,a\n0,1\n1,2\n"
PROJECT = """lesart = 1
[sources.s]
capture = "{capture}"
header = 1
time = "t"
[channels.a]
source = "s"
column = "a"
raw_unit = "1"
unit = "1"
lowest = "0"
highest = "9"
[panels.p]
kind = "pixels"
[fonts.f]
file = "{font}"
[pictures.x]
file = "{picture}"
[panels.p.trace]
capture = "{trace}"
clock = "c"
data = "d"
"""
INSIDE = {"capture": "in.csv", "font": "f.bdf", "picture": "x.png", "trace": "t.vcd"}
PLACES = {
    "capture": "sources.s.capture",
    "font": "fonts.f.file",
    "picture": "pictures.x.file",
    "trace": "panels.p.trace.capture",
}


@pytest.fixture
def place(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A folder with a secret beside that of a project; nothing is allowed yet."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    (tmp_path / "secret.csv").write_text(SECRET)
    (tmp_path / "project").mkdir()
    (tmp_path / "project/in.csv").write_text(SECRET)
    return tmp_path


def problems_of(folder: Path, **named: str) -> list[str]:
    """Places that lead out."""
    text = PROJECT.format(**{**INSIDE, **named})
    (folder / "lesart.toml").write_text(text)
    try:
        check_project(text, assets=Assets(folder))
    except ProjectError as error:
        return [problem.place for problem in error.problems if "leads out of the project" in problem.wanted]
    return []


@pytest.mark.parametrize("what", INSIDE)
@pytest.mark.parametrize("how", ["above", "absolute", "through", "link", "linked folder"])
def test_a_file_outside_is_refused_at_its_place(place: Path, what: str, how: str) -> None:
    """Whatever names it, and by whatever way it leads there."""
    folder = place / "project"
    (folder / "link.csv").symlink_to(place / "secret.csv")
    (folder / "more").symlink_to(place)
    way = {
        "above": "../secret.csv",
        "absolute": str(place / "secret.csv"),
        "through": "captures/../../secret.csv",
        "link": "link.csv",
        "linked folder": "more/secret.csv",
    }[how]
    assert problems_of(folder) == []
    assert problems_of(folder, **{what: way}) == [PLACES[what]]


def test_all_that_names_a_file_is_looked_at() -> None:
    """What the table of named files finds is what the project above has."""
    import tomllib

    tables = tomllib.loads(PROJECT.format(**INSIDE))
    assert dict(named_files(tables)) == {PLACES[what]: name for what, name in INSIDE.items()}


@pytest.mark.parametrize("name", WRITTEN_INTO)
def test_a_link_in_place_of_a_folder_written_into_is_refused(place: Path, name: str) -> None:
    """Lesart would write where the link leads."""
    folder = place / "project"
    (folder / name).symlink_to(place)
    assert problems_of(folder) == [name]


def test_a_link_to_within_the_project_is_no_matter(place: Path) -> None:
    """Nor is a project that is itself reached through a link."""
    folder = place / "project"
    (folder / "again.csv").symlink_to("in.csv")
    (place / "way").symlink_to(folder)
    assert problems_of(place / "way", capture="again.csv") == []


def test_what_is_allowed_holds_for_this_project_and_this_file(
    place: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Asked, named, remembered; another project, and another file of this one, are asked again."""
    folder = place / "project"
    assert problems_of(folder, capture="../secret.csv")
    assert "sources.s.capture" in refused(capsys, "read", folder, "a")
    assert "--yes" in refused_to_ask(capsys, monkeypatch, folder)
    assert str(place / "secret.csv") in said(capsys, "allow", folder, "--yes")
    assert said(capsys, "read", folder, "a").splitlines()[1:] == ["0.0,1.0,", "1.0,2.0,"]
    assert is_allowed(folder, place / "secret.csv")
    assert not is_allowed(folder, place / "other.csv")
    assert not is_allowed(place / "elsewhere", place / "secret.csv")
    assert "nothing in it leads outside" in said(capsys, "allow", folder)


def refused_to_ask(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, folder: Path) -> str:
    """What is said where nobody can answer."""
    from lesart.cli.main import main

    monkeypatch.setattr("sys.stdin", io.StringIO())
    assert main(["allow", str(folder)]) == 2
    return capsys.readouterr().err


@pytest.mark.parametrize(("answer", "code"), [("y", 0), ("n", 1), ("", 1)])
def test_the_answer_counts(
    place: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, answer: str, code: int
) -> None:
    """Anything but y is no."""
    folder = place / "project"
    problems_of(folder, capture="../secret.csv")
    monkeypatch.setattr("sys.stdin.isatty", lambda: True, raising=False)
    monkeypatch.setattr("builtins.input", lambda asks: answer)
    said(capsys, "allow", folder, code=code)
    assert is_allowed(folder, place / "secret.csv") == (code == 0)


@pytest.mark.parametrize("content", ["", "[", "[]", '{"x": 1}', '{"x": [1]}', "\ud800" * 3])
def test_what_cannot_be_read_allows_nothing(place: Path, content: str) -> None:
    """A broken memory is asked again, and written anew."""
    (place / "state/lesart").mkdir(parents=True)
    (place / "state/lesart/allowed.json").write_text(content, encoding="utf-8", errors="surrogatepass")
    folder = place / "project"
    assert not is_allowed(folder, place / "secret.csv")
    allow(folder, [place / "secret.csv"])
    assert is_allowed(folder, place / "secret.csv")


def test_a_link_to_itself_leads_nowhere(place: Path) -> None:
    """It is no file, which is said where it is read."""
    (place / "project/loop.csv").symlink_to("loop.csv")
    assert leads_to(place / "project", "loop.csv") is None


def test_an_edit_leads_no_further_than_a_file_does(place: Path) -> None:
    """A name typed at the desk is held against the same border."""
    from lesart.desk.desk import Desk
    from lesart.desk.opening import open_desk

    folder = place / "project"
    (folder / "lesart.toml").write_text(PROJECT.format(**INSIDE))
    desk: Desk = open_desk(folder)
    before = desk.state.history.text
    desk.edit(("sources", "s", "capture"), "../secret.csv")
    assert "leads out of the project" in desk.state.message
    assert desk.state.history.text == before
