"""The desk's thread: pictures come for deeds, the last one counts, a broken project opens when it is mended."""

from __future__ import annotations

import queue
import re
from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.opening import open_desk
from lesart.desk.worker import Mistake, News, Progress, Trouble, Worker
from lesart.project.folder.store import FILE
from lesart.study.views import Picture
from tests.conftest import MASS

PATIENCE_S = 60


def made(news: queue.Queue[News]) -> News:
    """The next that is not a word on how far a file is read: on a busy machine there are some."""
    while isinstance(what := news.get(timeout=PATIENCE_S), Progress):
        pass
    return what


def test_deeds_become_pictures(yard: Path) -> None:
    """A hundred deeds need far fewer pictures, and the last picture shows the last deed with its notes."""
    pictures: queue.Queue[News] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: pictures.put(what))
    worker.start()
    first = made(pictures)
    assert isinstance(first, Picture)
    for width in range(100):
        worker.do(lambda desk, width=width: desk.edit(("channels", MASS, "fit", "decimals"), str(width % 3)))
    worker.do(lambda desk: desk.open_step(Step.PACE))
    got = []
    while not got or got[-1].workspace.step is not Step.PACE:
        picture = made(pictures)
        assert isinstance(picture, Picture)
        got.append(picture)
    worker.stop()
    last = got[-1]
    assert len(got) < 60
    assert (yard / ".lesart" / "unsaved.toml").exists() is last.unsaved


def test_a_broken_project_opens_when_it_is_mended(yard: Path) -> None:
    """Its problems are shown; the file mended, the picture comes by itself."""
    good = (yard / FILE).read_text()
    (yard / FILE).write_text(good.replace("bits = 24", "bits = 240"))
    pictures: queue.Queue[News] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: pictures.put(what))
    worker.start()
    trouble = made(pictures)
    assert isinstance(trouble, Trouble)
    assert "bits = 240; it must be a whole number from 8 to 32" in trouble.sentences[0]
    (yard / FILE).write_text(good)
    assert isinstance(made(pictures), Picture)
    worker.stop()


def test_a_mistake_of_lesart_s_own_is_said_and_loses_nothing(yard: Path) -> None:
    """An exception nobody thought of ends the thread with a sentence; the work is kept, the report in a file."""
    news: queue.Queue[News] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: news.put(what))
    worker.start()
    assert isinstance(made(news), Picture)
    worker.do(lambda desk: desk.edit(("channels", MASS, "fit", "decimals"), "2"))
    worker.do(lambda desk: desk.move_cursor(1 // 0))
    while not isinstance(told := made(news), Mistake):
        pass
    assert "unsaved work is back next time" in told.sentence
    assert "ZeroDivisionError" in (yard / ".lesart/report.txt").read_text()
    assert open_desk(yard).state.unsaved
    worker.stop()


def test_a_large_file_tells_how_far_it_is_and_can_be_stopped(yard: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Everything else of the project is there; what was stopped says how to have it after all."""
    monkeypatch.setattr("lesart.desk.worker.PROGRESS_AFTER_S", 0.0)
    monkeypatch.setattr("lesart.desk.worker.PROGRESS_S", 0.0)
    news: queue.Queue[News] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: (news.put(what), worker.stop_reading())[0])
    worker.start()
    first = news.get(timeout=PATIENCE_S)
    assert isinstance(first, Progress)
    assert re.fullmatch(r"Reading hive-2-morning\.csv: \d+ %\. Escape stops it\.", first.sentence)
    while not isinstance(what := news.get(timeout=PATIENCE_S), Picture):
        pass
    assert what.thread[1].value.text == "no capture"
    worker.stop()
