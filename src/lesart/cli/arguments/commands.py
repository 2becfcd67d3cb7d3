"""All commands by name: what each says of itself, and its arguments."""

from __future__ import annotations

from collections.abc import Callable

from lesart.cli.arguments.devices import (
    decode_arguments,
    record_arguments,
    rig_arguments,
    survey_arguments,
    wire_arguments,
)
from lesart.cli.arguments.outputs import completion_arguments, draw_arguments, pack_arguments
from lesart.cli.arguments.panels import (
    font_arguments,
    glass_arguments,
    pace_arguments,
    picture_arguments,
    trace_arguments,
)
from lesart.cli.arguments.projects import (
    allow_arguments,
    check_arguments,
    demo_arguments,
    fit_arguments,
    hand_arguments,
    law_arguments,
    new_arguments,
    open_arguments,
    read_arguments,
)
from lesart.cli.arguments.shared import Command
from lesart.cli.why.arguments import why_arguments

COMMANDS: dict[str, tuple[str, Callable[[Command], None]]] = {
    "demo": ("open the linden yard, a made-up apiary; its files are made where they are not", demo_arguments),
    "open": ("open a project on a full screen", open_arguments),
    "new": ("make a project from a capture or a serial line, finding out how it is written", new_arguments),
    "hand": ("follow one value through every step to the glass", hand_arguments),
    "read": ("readings as CSV", read_arguments),
    "fit": ("a channel's field at every ugly value, and its whole range swept", fit_arguments),
    "glass": ("a panel lit, or a test pattern on it, with the bytes that are sent", glass_arguments),
    "pace": ("the firmware's loop played: refresh, buses, missed pulses, lag, each with its limit", pace_arguments),
    "trace": ("a logic trace of a panel's lines as the model makes them, to hold a real one against", trace_arguments),
    "pack": ("channels in whole numbers for a firmware, with vectors, compiled and compared", pack_arguments),
    "why": ("what a channel should read, and the few mistakes that explain what it reads", why_arguments),
    "picture": ("a picture made ready for a pixel panel, and its bytes", picture_arguments),
    "font": ("Lesart's own fonts for pixel panels, shown and written as BDF", font_arguments),
    "check": ("every note of a project", check_arguments),
    "law": ("the laws there are, and what one makes of a value", law_arguments),
    "wire": ("connections of the hook-up and what cannot work in it", wire_arguments),
    "decode": ("edges, bits, bytes and values in a trace or a dump of frames", decode_arguments),
    "record": ("listen to a source's line and write what comes into a new capture", record_arguments),
    "survey": ("who answers on a bus, and what it means when none or all of them do", survey_arguments),
    "rig": ("simulated devices on pseudo-terminals and TCP, to listen to and to survey", rig_arguments),
    "draw": (
        "a chart, a panel, the hook-up sheet or a timing diagram as SVG or PDF, a panel as PNG or GIF too",
        draw_arguments,
    ),
    "allow": ("files outside its folder that a project may read, because you trust it", allow_arguments),
    "completion": ("what makes a shell complete commands and options", completion_arguments),
}
