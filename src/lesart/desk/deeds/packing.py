"""Writing, compiling and comparing the firmware, from the desk."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.step import Step
from lesart.desk.packing import Packing
from lesart.study.written_pack import FOLDER

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def write_firmware(desk: Desk) -> None:
    """Start it, unless it is running, and open its leaf."""
    if desk.packing is not None and desk.packing.is_running:
        desk.say(f"It is under way: {desk.packing.doing}.")
        return
    desk.packing = Packing(desk.folder, desk.state.project)
    desk.turn(lambda state: state.turned_to(Step.PACK, "firmware"))
    desk.say(f"All channels go into {FOLDER}/; the result is shown here.")
