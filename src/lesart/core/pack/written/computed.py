"""The equations of each channel: enough to write it again in another language."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.written.c_channel import marks_said
from lesart.core.pack.written.said import channel_lines, raw_said

HEAD = """\
Numbers are whole numbers; `>>` is the floor of a division by a power of two, `/` is cut toward zero. `T[i]` and the
like are the tables of that channel's source. Times are milliseconds on a clock of 32 bits that may begin again.

A sample is bad that has one of the marks missing, checksum, range, rate, saturated. Where nothing else is said a bad
sample passes with its mark, and what is kept stays as it was."""


def computed(title: str, forms: Sequence[ChannelForm]) -> str:
    """The page of all channels."""
    lines = [f"# What the firmware of {title} computes", "", *HEAD.splitlines(), "", f"Marks: {marks_said()}."]
    for form in forms:
        wanted = form.wanted
        lines += ["", f"## {wanted.title}", "", f"{raw_said(wanted)[0].upper()}{raw_said(wanted)[1:]}."]
        lines += [f"{each}" for each in channel_lines(form)[1:2]]
        if wanted.described:
            lines += ["", "At the desk, in numbers with a point:", ""]
            lines += [f"- {each}" for each in wanted.described]
        lines += ["", "In whole numbers:", ""]
        lines += [f"- {each.place}: {each.says}." for each in form.functions]
        reasons = reasons_of(form)
        if reasons:
            lines += ["", f"Ranges follow by interval arithmetic; where that sees too little: {'; '.join(reasons)}."]
    return "\n".join(lines) + "\n"


def reasons_of(form: ChannelForm) -> tuple[str, ...]:
    """Why some values have narrower ranges than intervals can tell, each once."""
    return tuple(
        dict.fromkeys(
            part.parts[1]
            for function in form.functions
            for each in function.wholes
            for part in each.walk()
            if part.op == "within"
        )
    )
