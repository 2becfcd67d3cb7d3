"""What a person called something is never obeyed by a compiler or by the model: it stays a comment."""

from __future__ import annotations

from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from lesart.core.pack.program.plain import plain
from lesart.project.check import check_project
from lesart.study.bench import Bench
from lesart.study.packing.compiled import compiled_and_run
from lesart.study.packing.made import packed

NASTY = st.text(st.sampled_from("*/\\\"'\n\r\t a?\0\u2028"), max_size=12)


@given(NASTY)
def test_no_words_end_a_comment(words: str) -> None:
    """In one line, without an end or a beginning of a comment, a quote or a sign or three signs that escape."""
    made = plain(words)
    assert made.isprintable()
    assert not any(each in made for each in ("*/", "/*", '"', "\\", "??"))
    scope: dict[str, object] = {}
    exec(f'# {made}\nclass A:\n    """{made} {made}."""\nfound = 1\n', scope)
    assert scope["found"] == 1


def test_plain_words_stay_as_they_are() -> None:
    assert plain("hive 2 mass, 4 cells × 2 °C; 50 %") == "hive 2 mass, 4 cells × 2 °C; 50 %"


def test_a_project_of_a_stranger_is_packed_and_nothing_in_it_runs(tmp_path: Path) -> None:
    """Its channel, source, panel and face are called alike, and as would end every comment and docstring."""
    bad = 'x ???/ */ int evil; \\"\\"\\" \\nraise ValueError(1) \\\\ /*'
    (tmp_path / "c.csv").write_text("t,a\n" + "".join(f"{i / 10},{i % 50}\n" for i in range(60)))
    text = f"""lesart = 1
name = "{bad}"
[sources."{bad}"]
capture = "c.csv"
header = 1
time = "t"
[channels."{bad}"]
source = "{bad}"
column = "a"
raw_unit = "ct"
unit = "ct"
lowest = "0 ct"
highest = "100 ct"
[panels."{bad}"]
kind = "characters"
columns = 16
rows = 2
[faces."{bad}"]
panel = "{bad}"
[[faces."{bad}".items]]
kind = "field"
channel = "{bad}"
width = 5
"""
    project = check_project(text)
    pack = packed(project, Bench(tmp_path), project.pack)
    assert pack.left_out == {}
    assert len(pack.panels) == 1
    built = compiled_and_run(pack.files)
    assert built is not None
    assert built.ok, built.says
