"""The README of a pack, in the words of the person who built the project."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.machine import Machine
from lesart.core.pack.written.c_channel import marks_said
from lesart.core.pack.written.said import channel_lines, raw_said


def readme(title: str, header: str, machine: Machine, forms: Sequence[ChannelForm], left_out: Mapping[str, str]) -> str:
    """What it is, how it is used, what each channel needs, and what was left out."""
    module = f"{header.removesuffix('.h')}.py"
    lines = [
        f"# {title}, for firmware",
        "",
        f"Written by Lesart from the project. Whole numbers only, words of {machine.word} bits, no library but",
        "`stdint.h`. Change the project and pack it again; do not change these files.",
        "",
        "## How to use it",
        "",
        f"1. Put the `.c` files and `{header}` into your firmware; where it runs Python, `{module}`.",
        "2. Call `…_start` once for each channel, then `…_step(state, raw, mark, now)` for each sample. `now` counts",
        "   milliseconds and may begin again. It gives 1 where a reading came out.",
        "3. Call `…_show(state, now)` when you draw: the cells of each field then hold the codes to send.",
        "",
        f"A mark tells why a sample is not good: {marks_said()};",
        "0 is good. Hand over 1 where a sensor did not answer and 2 where a checksum was wrong; the rest follows.",
        "",
        "## Does it compute the same as the desk?",
        "",
        "```",
        "cc -std=c99 *.c -o test_pack && ./test_pack",
        "```",
        "",
        "prints `equal`, or the first difference. On a device, build it with `-DPRINT_ROWS`, keep what it prints, and",
        "run `lesart pack PROJECT --compare ROWS`. `vectors/` has the same as CSV.",
        "",
        "`computed.md` has every law and filter as equations, with its start and its exceptions, and what shows that",
        "nothing overflows.",
        "",
        "## Channels",
    ]
    for form in forms:
        lines += ["", f"### {form.wanted.title}", ""]
        lines += [f"- {each}" for each in (*channel_lines(form)[1:], raw_said(form.wanted) + ".")]
        lines.append(
            f"- {form.memory_bytes} bytes of memory, {form.table_bytes} of tables, at most {form.operations} "
            "operations a sample."
        )
        lines += [f"- {each.place}: {each.says}." for each in form.fields]
    if left_out:
        lines += ["", "## Left out", ""]
        lines += [f"- {said}" for said in left_out.values()]
    return "\n".join(lines) + "\n"
