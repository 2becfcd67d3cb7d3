"""All channels as one Python module that imports nothing."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.program.in_python import HELPERS, class_text, table_text
from lesart.core.pack.program.plain import plain
from lesart.core.pack.program.statements import Function
from lesart.core.pack.written.c_channel import marks_said, stepped
from lesart.core.pack.written.said import channel_lines, raw_said


def short_name(form: ChannelForm, function: Function) -> str:
    """Of a stage, as a method: without the channel's name before it.

    What an alarm keeps is called as its function is in C, where the two do not meet.
    """
    name = function.name.removeprefix(f"{form.wanted.name}_")
    return f"{name}_step" if function in form.alarms else name


def python_module(title: str, forms: Sequence[ChannelForm]) -> str:
    """The text of the module."""
    head = [
        f'"""{plain(title)} in whole numbers. Written by Lesart; change the project, not this.',
        "",
        f"Marks: {marks_said()}; 0 is good.",
        '"""',
    ]
    parts = ["\n".join(head), HELPERS.rstrip()]
    for form in forms:
        tables = dict.fromkeys(table for each in form.functions for table in each.tables)
        parts += [table_text(each) for each in tables]
        parts.append(_class(form))
    return "\n\n\n".join(parts) + "\n"


def _class(form: ChannelForm) -> str:
    methods = [(short_name(form, each), each) for each in form.functions]
    says = "\n    ".join([*channel_lines(form), raw_said(form.wanted) + "."])
    lines = [class_text(form.wanted.name, says, methods, (*stepped(form), *form.kept)), "", *_step(form)]
    if form.fields:
        lines += ["", *_show(form)]
    return "\n".join(lines)


def _step(form: ChannelForm) -> list[str]:
    beside = "".join(f", {each.parts[0]}" for each in form.law.function.inputs[2:])
    lines = [
        f"    def step(self, raw, mark, now{beside}):",
        "        # 1 where a reading came out: self.x and self.mark.",
    ]
    lines += [f"        passes, x, mark = self.law(raw, mark{beside})"]
    for each in form.calm:
        lines += [
            f"        passes, x, mark = self.{short_name(form, each)}(x, mark, now)",
            "        if not passes:",
            "            return 0",
        ]
    lines += ["        self.x, self.mark, self.came = x, mark, now"]
    for place, each in enumerate(form.alarms, 1):
        lines.append(f"        _, self.alarm{place} = self.{short_name(form, each)}(x, mark, now)")
    return [*lines, "        return 1"]


def _show(form: ChannelForm) -> list[str]:
    lines = ["    def show(self, now):", "        # Fills the cells of each field with codes."]
    lines += ["        age = _elapsed(now, self.came)"]
    lines += [f"        self.{short_name(form, each)}(self.x, self.mark, age)" for each in form.fields]
    return lines
