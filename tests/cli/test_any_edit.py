"""Edits by chance of a worked job or a new project, as a person may make them, and then every command: an answer or a sentence.

What was built for one thing meets another here: filters and readings that are marked outside of their range, a law of
decades and whole numbers, a gap among readings and a table. Each of these ended in a mistake of Lesart's own once.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from pathlib import Path

import pytest

from lesart.cli.main import main
from lesart.core.step import Step
from lesart.demo.jobs.listed import JOBS
from lesart.desk.desk import Desk
from lesart.desk.entries.offered_values import offers_of_value
from lesart.desk.entries.offers import OFFERS
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.opening import open_desk
from lesart.desk.picture import picture_of
from lesart.desk.project_folders import make_job
from lesart.desk.state import LEAVES
from lesart.project.model import Project
from lesart.project.schema import parameters_at, tables_in
from tests.cli.test_every_job import LIKE_A_MACHINE, commands, without_dots
from tests.desk.test_mends import leaves, other_value
from tests.desk.test_offers import GROUP

SHARE = 0.3
"""Of all commands that are tried of one project."""


def begun(folder: Path, chance: random.Random) -> Path:
    """A worked job, or a project of numbers by chance that are called some signal."""
    job = chance.choice(JOBS)
    if chance.random() < 0.5:
        return make_job(job.folder, folder / job.folder)
    top, every_s = chance.choice([1, 255, 1023, 65_535, 1_000_000]), chance.choice([0.001, 0.1, 60])
    rows = [f"{row * every_s:g},{round(chance.random() * top, 0 if top > 1 else 3):g}" for row in range(300)]
    (folder / "some.csv").write_text("\n".join(["t,value", *rows]) + "\n")
    signal = chance.choice(list(SIGNALS.values())).begins
    assert main(["new", str(folder / "some.csv"), str(folder / "some"), "--is", signal]) in (0, 2)
    return folder / "some"


def add(desk: Desk, chance: random.Random) -> None:
    """One of the lines that are offered somewhere."""
    desk.open_step(chance.choice(list(OFFERS)))
    desk.choose_channel(chance.choice(list(desk.state.project.channels)))
    if desk.state.step in LEAVES:
        desk.choose_leaf(chance.choice(LEAVES[desk.state.step]))
    desk.offer()
    offered = [
        GROUP[sign] + offer.text
        for sign, offers in desk.state.offers.items()
        for offer in offers
        if sign in GROUP and offer.is_whole
    ]
    if offered:
        desk.add(chance.choice(offered))


def change(desk: Desk, chance: random.Random) -> None:
    """A value of some table: one of its choices, or so many times as large."""
    project = desk.state.project
    table = chance.choice(list(tables_in(project.tables)))
    parameters = parameters_at(project, table)
    if not parameters:
        return
    key = (*table, chance.choice(list(parameters)).name)
    choices = [offer.text for offer in offers_of_value(project, desk.folder, key)]
    typed = chance.choice(choices) if choices else other_value(dict(leaves(project.tables)).get(key), chance)
    if typed is not None:
        desk.edit(key, typed)


def take_away(desk: Desk, chance: random.Random) -> None:
    """What is selected at some step."""
    desk.open_step(chance.choice(list(Step)))
    picture_of(desk)
    desk.take_away()


def looked_at(desk: Desk) -> Iterator[str]:
    """All that is said of it now: the message and every note. Each leaf of the open step is drawn."""
    yield desk.state.message
    for note in desk.notes:
        yield f"{note.text} {note.remedy or ''}"
    for leaf in LEAVES.get(desk.state.step, ()):
        desk.choose_leaf(leaf)
        picture_of(desk)


def also(project: Project, at: str, out: Path) -> Iterator[list[str]]:
    """Commands that change a project or ask why, after all others."""
    yield from (["why", at, "--time", symptom] for symptom in ("flickers", "lags", "missed", "freezes"))
    for name, channel in project.channels.items():
        middle = (channel.lowest + channel.highest) / 2
        for reading in (channel.lowest, middle, 2 * channel.highest + 1):
            yield ["hand", at, name, f"--reading={reading:g}"]
        yield ["hand", at, name, f"--reading={middle:g}", "--firmware"]
    for name in project.panels:
        yield ["glass", at, name, "--arrange"]
        yield from (["glass", at, name, "--refit", other] for other in project.panels)
    yield from (["wire", at, "--propose"], ["check", at], ["pack", at, "--to", str(out / "again"), "--no-compile"])
    yield ["draw", at, "report", "-o", str(out / "report.pdf")]


@pytest.mark.parametrize("seed", [0, *(pytest.param(seed, marks=pytest.mark.long) for seed in range(1, 40))])
def test_any_edits_leave_a_project_that_every_command_answers(
    seed: int, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """And that is as it was when all is taken back."""
    chance = random.Random(seed)
    folder = begun(tmp_path, chance)
    desk = open_desk(folder)
    before, done = desk.state.history.text, [folder.name]
    for _ in range(chance.randint(4, 12)):
        chance.choices([add, change, take_away], [0.45, 0.45, 0.1])[0](desk, chance)
        done.append(desk.state.message)
        for said in looked_at(desk):
            assert not LIKE_A_MACHINE.search(said), done
    desk.save()
    project, at = desk.state.project, str(folder)
    capsys.readouterr()
    for command in (*commands(project, folder, tmp_path), *also(project, at, tmp_path)):
        if chance.random() > SHARE:
            continue
        code = main(command)
        said = capsys.readouterr()
        assert code in (0, 1, 2), (done, command, said.err)
        if "--json" not in command:
            found = LIKE_A_MACHINE.search(without_dots(said.out + said.err).replace("None of", ""))
            assert found is None, (done, command, said.out + said.err)
    while desk.state.history.at:
        desk.undo()
    assert desk.state.history.text == before
    desk.close()
