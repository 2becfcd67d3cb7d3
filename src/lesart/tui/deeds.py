"""What keys let the desk do, each imported in the desk's own thread: before the first picture nothing heavy is."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

Way = Literal["left", "right", "up", "down"]


def open_folder(path: Path) -> Desk:
    """A project folder."""
    from lesart.desk import opening

    return opening.open_desk(path)


def open_demo() -> Desk:
    """The linden yard, beside where Lesart was started."""
    from lesart.desk import opening

    return opening.open_demo(Path("linden-yard"))


def jobs_by_name() -> dict[str, str]:
    """What each job that is worked out is, by the name of its folder. Takes a moment: not for the screen's thread."""
    from lesart.demo.jobs.listed import JOBS

    return {job.folder: job.title for job in JOBS}


def open_job(name: str) -> Desk:
    """A job worked out, beside where Lesart was started."""
    from lesart.desk import opening, project_folders

    return opening.open_desk(project_folders.make_job(name, Path(name)))


def open_new(path: Path) -> Desk:
    """A new project from a capture."""
    from lesart.desk import opening

    return opening.open_new(path)


def with_typed(desk: Desk, deed: Callable[[Desk, str], Any], typed: str) -> None:
    """A deed that takes what was typed; a line that nobody types, thousands of letters, is refused by its length."""
    from lesart.core.errors import RequestError
    from lesart.desk.entries.typed_values import not_too_long

    try:
        not_too_long(typed)
    except RequestError as error:
        desk.say(str(error), fault=True)
    else:
        deed(desk, typed)


def remember_project(desk: Desk) -> None:
    """For the welcome of the next run."""
    from lesart.project.folder import remembered

    remembered.remember_project(desk.folder)


def remember_look(*, light: bool) -> None:
    """For the next run."""
    from lesart.project.folder import remembered

    remembered.remember_look(light=light)


def remember_walk(stop: int) -> None:
    """For the next time."""
    from lesart.project.folder import remembered

    remembered.remember_walk(stop)


def walk_waits_at() -> int:
    """The stop at which it was left."""
    from lesart.project.folder import remembered

    return remembered.remembered().walk


def move_value(desk: Desk, by: int) -> None:
    """Select another value of the workspace."""
    from lesart.desk import picture

    picture.move_value(desk, by)


def nudge_value(desk: Desk, direction: int) -> None:
    """The selected value a step up or down."""
    from lesart.desk import picture

    picture.nudge_value(desk, direction)


def try_out(desk: Desk, deed: Callable[[Desk], None] | None) -> None:
    """See what a deed would make; no deed: see what is."""
    from lesart.desk import trial

    trial.try_out(desk, deed)


def search(desk: Desk) -> None:
    """See all that can be found."""
    from lesart.desk.deeds import finding

    finding.search(desk)


def find(desk: Desk, typed: str) -> None:
    """Go to what is called so."""
    from lesart.desk.deeds import finding

    finding.find(desk, typed)


def ask_why(desk: Desk, typed: str) -> None:
    """What the channel should read, and what explains that it does not."""
    from lesart.desk.deeds import why

    why.ask_why(desk, typed)


def go_home(desk: Desk) -> None:
    """Where a value is taken from, or the limit of a note stands."""
    from lesart.desk.deeds import home

    home.go_home(desk)


def toggle_listening(desk: Desk) -> None:
    """The line of the chosen channel."""
    from lesart.desk.deeds import lines

    lines.toggle_listening(desk)


def toggle_all(desk: Desk) -> None:
    """All lines."""
    from lesart.desk.deeds import lines

    lines.toggle_all(desk)


def toggle_recording(desk: Desk) -> None:
    """Of the line of the chosen channel."""
    from lesart.desk.deeds import lines

    lines.toggle_recording(desk, datetime.now())


def toggle_survey(desk: Desk) -> None:
    """Ask who answers on a line."""
    from lesart.desk.deeds import lines

    lines.toggle_survey(desk)


def next_variant(desk: Desk) -> None:
    """Look at the next variant of the channel."""
    from lesart.desk.deeds import variants

    desk.turn(variants.next_variant)


def new_variant(desk: Desk) -> None:
    """One more, as the one looked at."""
    from lesart.desk.deeds import variants

    variants.new_variant(desk)


def drop_variant(desk: Desk) -> None:
    """Without the one looked at."""
    from lesart.desk.deeds import variants

    variants.drop_variant(desk)


def rename(desk: Desk, name: str) -> None:
    """Another name for what is looked at."""
    from lesart.desk.deeds import naming

    naming.rename(desk, name)


def copy(desk: Desk, name: str) -> None:
    """What is looked at a second time."""
    from lesart.desk.deeds import naming

    naming.copy(desk, name)


def adopt(desk: Desk) -> None:
    """The variant or calibration looked at becomes the one in use."""
    from lesart.desk.deeds import adopting

    adopting.adopt(desk)


def move(desk: Desk, way: Way, by: Literal["", "cell"] = "") -> None:
    """The selected item, or the dot looked at."""
    from lesart.desk.deeds import glass

    glass.move(desk, way, by)


def snap(desk: Desk, way: Way) -> None:
    """Snap the selected item to the next line."""
    from lesart.desk.deeds import glass

    glass.snap(desk, way)


def align(desk: Desk) -> None:
    """The selected item left, in the middle, right."""
    from lesart.desk.deeds import glass

    glass.align(desk)


def space_evenly(desk: Desk) -> None:
    """Equal distances between items."""
    from lesart.desk.deeds import glass

    glass.space_evenly(desk)


def look_closely(desk: Desk) -> None:
    """At the item pixel by pixel, or at the panel."""
    from lesart.desk.deeds import glass

    desk.turn(glass.look_closely)


def look_from_behind(desk: Desk) -> None:
    """At see-through panels."""
    from lesart.desk.deeds import glass

    desk.turn(glass.look_from_behind)


def next_place(desk: Desk) -> None:
    """The next field of the channel in Fit; else the next face of the panel."""
    from lesart.desk.deeds import glass

    desk.turn(glass.next_place)


def next_pattern(desk: Desk) -> None:
    """Of the panel in front."""
    from lesart.desk.deeds import glass

    desk.turn(glass.next_pattern)


def turn_over(desk: Desk) -> None:
    """A dot of a glyph; before and after; figures of Pace kept."""
    from lesart.desk.deeds import turning

    turning.turn_over(desk)


def lit_line(desk: Desk, name: str) -> None:
    """Which segment is lit now."""
    from lesart.desk.deeds import glass

    glass.lit_line(desk, name)


def join_by_role(desk: Desk) -> None:
    """All pins that are not joined."""
    from lesart.desk.deeds import hookup

    hookup.join_by_role(desk)


def write_sum(desk: Desk) -> None:
    """The result of the selected sum into the hook-up."""
    from lesart.desk.deeds import hookup

    hookup.write_sum(desk)
