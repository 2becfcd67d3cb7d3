"""The firmware written, compiled and compared, from the desk."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lesart.core.step import Step
from lesart.desk.packing import Packing
from lesart.study.written_pack import FOLDER

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def write_firmware(desk: Desk) -> None:
    """Begin, unless it is under way; the leaf that tells of it is turned up."""
    if desk.packing is not None and desk.packing.is_running:
        desk.say(f"It is under way: {desk.packing.doing}.")
        return
    desk.packing = Packing(desk.folder, desk.state.project)
    desk.turn(lambda state: state.turned_to(Step.PACK, "firmware"))
    desk.say(f"All channels go into {FOLDER}/; the result is shown here.")
