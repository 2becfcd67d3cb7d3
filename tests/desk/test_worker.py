"""The desk's thread: pictures come for deeds, the last one counts, a broken project opens when it is mended."""

from __future__ import annotations

import queue
from pathlib import Path

from lesart.desk.desk import open_desk
from lesart.desk.views import Picture
from lesart.desk.worker import Trouble, Worker
from lesart.project.check import FILE
from tests.conftest import MASS

PATIENCE_S = 20


def test_deeds_become_pictures(yard: Path) -> None:
    """A hundred deeds need far fewer pictures, and the last picture shows the last deed with its notes."""
    pictures: queue.Queue[Picture | Trouble] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: pictures.put(what))
    worker.start()
    first = pictures.get(timeout=PATIENCE_S)
    assert isinstance(first, Picture)
    for width in range(100):
        worker.do(lambda desk, width=width: desk.edit(("channels", MASS, "fit", "decimals"), str(width % 3)))
    worker.do(lambda desk: desk.open_step(8))
    got = []
    while not got or got[-1].workspace.number != 8:
        picture = pictures.get(timeout=PATIENCE_S)
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
    pictures: queue.Queue[Picture | Trouble] = queue.Queue()
    worker = Worker(lambda: open_desk(yard), lambda what, _: pictures.put(what))
    worker.start()
    trouble = pictures.get(timeout=PATIENCE_S)
    assert isinstance(trouble, Trouble)
    assert "bits = 240; it must be a whole number from 8 to 32" in trouble.sentences[0]
    (yard / FILE).write_text(good)
    assert isinstance(pictures.get(timeout=PATIENCE_S), Picture)
    worker.stop()
