"""What SECURITY.md promises of the whole program: what it never calls, whom it starts, where it listens, what it writes
down of its own mistakes."""

from __future__ import annotations

import ast
import os
import pickle
import re
import socket
import sys
from collections.abc import Sequence
from functools import cache
from pathlib import Path

import psutil
import pytest

from lesart.desk.ahead import _Own
from lesart.desk.report import temporary_report
from lesart.live.rig.rig import Rig

ROOT = Path(__file__).resolve().parent.parent
SOURCES = sorted((ROOT / "src/lesart").rglob("*.py"))
NEVER = re.compile(
    r"^(eval|exec|compile|__import__|input|os\.(system|popen|exec\w*|spawn\w*)|pty\.spawn|marshal\.\w+|shelve\.\w+"
    r"|pickle\.(load|loads|Unpickler)|yaml\.\w+|importlib\.reload)$"
)
ALLOWED = {
    "cli/allow.py": {"input"},  # a person is asked, in a shell
    "core/dataclass_later.py": {"exec"},  # the beginning of a class, from the names of its own fields
    # The model of a pack, without builtins; tests/core/pack/test_plain.py holds that no name in it is obeyed.
    "core/pack/program/in_python.py": {"exec", "compile"},
}
STARTS = {"project/captures/by_library.py", "study/packing/compiled.py"}
"""Modules that start programs: a child of Lesart's own for foreign formats, and the compilers."""


MAY = re.compile(
    r"\b(eval|exec\w*|compile|__import__|input|system|popen|spawn\w*|marshal|shelve|pickle|yaml|importlib|load|subprocess)\b"
)
"""Words without one of which a module has none of the calls that are looked for; most have none."""


@cache
def calls_of(path: Path) -> Sequence[tuple[str, ast.Call]]:
    """Every call by its dotted name."""
    text = path.read_text(encoding="utf-8")
    nodes = ast.walk(ast.parse(text)) if MAY.search(text) else ()
    return [(ast.unparse(node.func), node) for node in nodes if isinstance(node, ast.Call)]


def below(path: Path) -> str:
    return path.relative_to(ROOT / "src/lesart").as_posix()


def test_nothing_is_called_that_obeys_a_text() -> None:
    """No text becomes a program, a command of a shell or an object."""
    found = {(below(path), name) for path in SOURCES for name, _ in calls_of(path) if NEVER.match(name)}
    assert found == {(place, name) for place, names in ALLOWED.items() for name in names}


def test_arrays_are_read_without_objects() -> None:
    """A file of numpy may hold pickled objects; each place that reads one says that it must not."""
    told = [
        (below(path), [key for key in node.keywords if key.arg == "allow_pickle"])
        for path in SOURCES
        for name, node in calls_of(path)
        if name in ("np.load", "numpy.load")
    ]
    assert told
    for place, keys in told:
        assert [ast.unparse(key.value) for key in keys] == ["False"], place


def test_programs_are_started_from_two_places_without_a_shell() -> None:
    """By a list of words, never by a text that a shell would read."""
    places = set()
    for path in SOURCES:
        for name, node in calls_of(path):
            if name.startswith("subprocess.") and name != "subprocess.CompletedProcess":
                places.add(below(path))
                assert not any(key.arg == "shell" for key in node.keywords), below(path)
                assert not isinstance(node.args[0], ast.JoinedStr | ast.Constant), below(path)
    assert places == STARTS


class Stranger:
    """What a pickle could have made."""

    def __reduce__(self) -> tuple[object, tuple[str]]:
        return os.system, ("true",)


def test_the_first_picture_is_made_of_nothing_but_our_own() -> None:
    """Whatever stood in the pipe: a name that is not Lesart's is refused."""
    import io

    with pytest.raises(pickle.UnpicklingError, match="system"):
        _Own(io.BytesIO(pickle.dumps(Stranger()))).load()


def test_the_rig_listens_at_this_computer_alone(tmp_path: Path) -> None:
    """All its servers, the broker among them; nobody in the network reaches one."""
    before = {each.laddr for each in psutil.Process().net_connections() if each.status == psutil.CONN_LISTEN}
    rig = Rig(tmp_path, broker_port=0, with_bus=True)
    rig.start()
    try:
        there = [each for each in psutil.Process().net_connections() if each.laddr and each.laddr not in before]
        listening = [each for each in there if each.status == psutil.CONN_LISTEN and each.family != socket.AF_UNIX]
        assert len(listening) >= 2
        assert {each.laddr.ip for each in listening} <= {"127.0.0.1", "::1"}
    finally:
        rig.stop()


def fails(typed: str) -> None:
    raise ZeroDivisionError("division by zero")


TYPED = "4 kg of honey"


def test_a_report_holds_where_it_went_wrong_and_no_values(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The way it took and its sentence: nothing that was typed or read on the way, and nothing of the computer."""
    monkeypatch.setenv("LESART_SECRET", "swordfish")
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    try:
        fails(TYPED)
    except ZeroDivisionError as error:
        said = temporary_report(error)
    (report,) = tmp_path.iterdir()
    text = report.read_text()
    assert str(report) in said
    assert "fails" in text and "division by zero" in text  # noqa: PT018
    assert "honey" not in text
    assert "swordfish" not in text
    assert report.stat().st_mode & 0o077 == 0 or sys.platform == "win32"
