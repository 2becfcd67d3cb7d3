"""The firmware of all channels: what was written, whether it agrees, and what was left out."""

from __future__ import annotations

from lesart.core.pack.settings import SETTINGS
from lesart.desk.workspace.context import Context, label, rows_of, text, wrapped
from lesart.study.views import Chart, Line
from lesart.study.written_pack import FOLDER


def firmware_leaf(context: Context) -> tuple[str, Chart | None, list[Line]]:
    """The result of the last run, or what x would do."""
    settings = rows_of(context.project, ("pack",), SETTINGS, column=26)
    packing = context.packing
    if packing is None:
        lines: list[Line] = [
            (
                label("   "),
                text("x", "ochre"),
                label(f" writes channels, panels and loop into {FOLDER}/ of the project:"),
            ),
            (label("   C, Python, vectors, a README. A C compiler that is found builds it and runs"),),
            (label("   the vectors."),),
        ]
        return "all channels", None, [*lines, (), *settings]
    lines = [(text(f"   {packing.doing} …", "ochre"),)] if packing.is_running else []
    for said in packing.done:
        good = packing.is_equal is not False or not said.startswith("the first difference")
        lines += wrapped(f" {said}", "verdigris" if good else "rubric")
    if packing.trouble:
        lines += wrapped(packing.trouble, "rubric")
    if packing.left_out:
        lines += [(), (label("   left out"),)]
        for said in packing.left_out.values():
            lines += wrapped(f" {said}", "ochre")
    if packing.project is not context.state.project and not packing.is_running:
        lines += [(), (label("   The project was changed since; "), text("x", "ochre"), label(" writes it again."))]
    return "all channels", None, [*lines, (), *settings]
