"""The README of a pack, in the words of the person who built the project."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.in_c import INDENT
from lesart.core.pack.written.c_channel import marks_said
from lesart.core.pack.written.c_colours import Painted
from lesart.core.pack.written.c_panel import PanelTables
from lesart.core.pack.written.said import channel_lines, raw_said

_OF_PIXELS = (
    "A frame is all of a panel's pixels in memory. Faces before any reading are frames; numbers are drawn into them",
    "by functions that know their place and their font; `…_changed` sends what differs from what is shown. What sends",
    "a run of bytes is yours: is_data says whether they are data or commands.",
)


def drawn_by(panel: PanelTables, header: str, forms: Sequence[ChannelForm]) -> list[str]:
    """A program that sets up a panel and draws its first face; it compiles as it is."""
    assert panel.letters is not None
    assert panel.redraw is not None
    name, macro = panel.name, panel.name.upper()
    packed = {form.wanted.name for form in forms}
    frame = panel.redraw.frames[0][0] if panel.redraw.frames else ""
    face = frame.removeprefix(f"{name}_frame_")
    fields = [each for each in panel.letters.fields if each.face == face and each.channel in packed]
    bars = [each for each in panel.letters.bars if each.face == face]
    channels = dict.fromkeys([each.channel for each in fields] + [each.channel for each in bars])
    way = panel.redraw.way
    boxes = ""
    if isinstance(way, Painted):
        boxes = f"{way.boxes[0][0]}, {way.boxes[0][0].upper()}_COUNT, 0, " if way.boxes else "0, 0, 0, "
    starts = [run for run in panel.runs if run.startswith(f"{name}_start")]
    return [
        "#include <string.h>",
        f'#include "{header}"',
        f'#include "{header.removesuffix(".h")}_glass.h"',
        "",
        *(f"static {channel}_state {channel};" for channel in channels),
        f"static uint8_t shown[{macro}_BYTES], frame[{macro}_BYTES];",
        "",
        "extern void send(uint8_t is_data, const uint8_t *bytes, uint16_t count);",
        *(["extern void wait_ms(uint16_t ms);"] if len(starts) > 1 else []),
        "",
        "void begin(void)",
        "{",
        f"{INDENT}uint16_t i;",
        *[
            line
            for place, run in enumerate(starts)
            for line in ([f"{INDENT}wait_ms(120);"] if place else []) + [f"{INDENT}send_runs({run}, send);"]
        ],
        *([f"{INDENT}memcpy(frame, {frame}, sizeof frame);"] if frame else []),
        f"{INDENT}for (i = 0; i < {macro}_BYTES; i++) {{",
        f"{INDENT}{INDENT}shown[i] = (uint8_t)~frame[i]; /* nothing of it is shown yet */",
        f"{INDENT}}}",
        *(f"{INDENT}{channel}_start(&{channel});" for channel in channels),
        "}",
        "",
        f"void draw({'uint32_t now' if channels else 'void'})",
        "{",
        *(f"{INDENT}{channel}_show(&{channel}, now);" for channel in channels),
        *(f"{INDENT}{each.name}(frame, {each.channel}.{each.cells});" for each in fields),
        *(
            f"{INDENT}{each.name}(frame, {each.channel}.x, {each.channel}.mark, elapsed(now, {each.channel}.came));"
            for each in bars
        ),
        f"{INDENT}{name}_changed(shown, frame, {boxes}send);",
        "}",
    ]


def readme(
    title: str,
    header: str,
    machine: Machine,
    forms: Sequence[ChannelForm],
    left_out: Mapping[str, str],
    panels: Sequence[PanelTables] = (),
) -> str:
    """The README: what the pack is, how it is used, what each channel needs, and what was left out."""
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
    drawn = [each for each in panels if each.letters is not None and each.redraw is not None]
    if drawn:
        lines += ["", "## Panels of pixels", "", *_OF_PIXELS]
        for panel in drawn:
            lines += ["", f"### {panel.says.removesuffix('.')}", "", "```c", *drawn_by(panel, header, forms), "```"]
    if left_out:
        lines += ["", "## Left out", ""]
        lines += [f"- {said}" for said in left_out.values()]
    return "\n".join(lines) + "\n"
