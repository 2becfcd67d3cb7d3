"""All commands by name, with their help and arguments."""

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
    "demo": ("open the linden yard, a made-up apiary, making its files where they are missing", demo_arguments),
    "open": ("open a project on a full screen", open_arguments),
    "new": ("make a project from a capture or a serial line, finding out how it is written", new_arguments),
    "hand": ("follow one value through every step to the glass", hand_arguments),
    "read": ("print readings as CSV", read_arguments),
    "fit": ("show a channel's field at every ugly value, and over its whole range", fit_arguments),
    "glass": ("light a panel, or a test pattern on it, with the bytes that are sent", glass_arguments),
    "pace": ("play the firmware's loop: refresh, buses, missed pulses and lag, each with its limit", pace_arguments),
    "trace": (
        "write a logic trace of a panel's lines as the model drives them, to compare a real one with",
        trace_arguments,
    ),
    "pack": ("write channels in whole numbers for firmware, with test vectors, compiled and compared", pack_arguments),
    "why": ("find the few mistakes that explain a wrong number, picture or time", why_arguments),
    "picture": ("make a picture ready for a pixel panel, and write its bytes", picture_arguments),
    "font": ("show Lesart's own fonts for pixel panels, and write them as BDF", font_arguments),
    "check": ("print every note of a project", check_arguments),
    "law": ("list the laws, or say what one makes of a value", law_arguments),
    "wire": ("list the connections of the hook-up and what cannot work in it", wire_arguments),
    "decode": ("print edges, bits, bytes and values of a trace or a dump of frames", decode_arguments),
    "record": ("listen to a source's line and write what comes into a new capture", record_arguments),
    "survey": ("find out who answers on a bus, and what it means if nobody or everybody does", survey_arguments),
    "rig": ("run simulated devices on pseudo-terminals and TCP, to listen to and to survey", rig_arguments),
    "draw": (
        "draw a chart, a panel, the hook-up or a timing diagram as SVG or PDF, a panel as PNG or GIF too",
        draw_arguments,
    ),
    "allow": ("let a project that you trust read files outside its folder", allow_arguments),
    "completion": ("print the script that lets a shell complete commands and options", completion_arguments),
}
