"""The parameters of a face's items, by kind."""

from __future__ import annotations

from lesart.core.glass.faces.hue import ALARM_COLOUR, COLOUR
from lesart.core.glass.faces.motion import PARAMETERS as MOTION
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT
from lesart.core.glyphs.fonts import FONTS
from lesart.core.parameters import Parameter

PLACE = (
    Parameter("row", "row", "integer", "at the top the first; of pixels on pixel panels", 0, lowest=0, highest=480),
    Parameter(
        "column", "column", "integer", "at the left the first; of pixels on pixel panels", 0, lowest=0, highest=480
    ),
)


FONT = Parameter("font", "font", "choice", "on pixel panels", DEFAULT_FONT, choices=FONTS)


RANK = (
    Parameter(
        "importance",
        "importance",
        "integer",
        "when it is arranged; the most important is largest",
        5,
        lowest=1,
        highest=9,
    ),
    Parameter("pinned", "pinned", "flag", "stays where it is when the face is arranged", False),
)


CHANNEL = Parameter("channel", "channel", "text", "whose reading it shows", longest=60, names="channels")


EXAMPLE, ADDRESS, HOST, DATE_AND_TIME, DATE, TIME_OF_DAY = TEXTS = (
    "its example",
    "address of this computer",
    "name of this computer",
    "date and time",
    "date",
    "time of day",
)
"""Example texts that are not numbers but have a field of fixed width."""


LABEL = (Parameter("text", "text", "text", "what it says", longest=80), *PLACE, FONT, COLOUR, *RANK, *MOTION)


FIELD_PLACE = (CHANNEL, *PLACE, FONT, COLOUR, ALARM_COLOUR, *RANK, *MOTION)


BAR = (
    CHANNEL,
    *PLACE,
    Parameter("width", "width", "integer", "cells or pixels across", 8, lowest=1, highest=480),
    Parameter("tall", "tall", "integer", "pixels, on pixel panels", 6, lowest=1, highest=320),
    COLOUR,
    ALARM_COLOUR,
    *RANK,
    Parameter("lowest", "empty at", "any quantity", "reading; as the channel's lowest if left out", optional=True),
    Parameter("highest", "full at", "any quantity", "reading; as the channel's highest if left out", optional=True),
)


ALARM = (
    CHANNEL,
    *PLACE,
    Parameter("text", "text", "text", "shown while an alarm is on", "!", longest=40),
    FONT,
    COLOUR,
    ALARM_COLOUR,
    *RANK,
    *MOTION,
)


TEXT = (
    Parameter("shows", "shows", "choice", "what the text is of", EXAMPLE, choices=TEXTS),
    Parameter(
        "text", "for example", "text", "a text of its kind, shown where the real one is not known", "text", longest=80
    ),
    Parameter(
        "begins", "captures begin", "text", "of dates and times: 2026-05-14 06:00:00; empty: not known", "", longest=19
    ),
    *PLACE,
    Parameter("width", "width", "integer", "cells; a longer text runs through them", 16, lowest=1, highest=80),
    FONT,
    COLOUR,
    *RANK,
    *(each for each in MOTION if each.name in ("step_time", "pause_time", "blink")),
)


BOX = (
    *PLACE,
    Parameter("width", "width", "integer", "pixels across", 32, lowest=1, highest=480),
    Parameter("tall", "tall", "integer", "pixels; 1 is a line", 1, lowest=1, highest=480),
    Parameter("filled", "filled", "flag", "lit all over, or its outline", True),
    COLOUR,
    *RANK,
)


TREND = (
    CHANNEL,
    *PLACE,
    Parameter("width", "width", "integer", "pixels across", 64, lowest=2, highest=480),
    Parameter("tall", "tall", "integer", "pixels", 16, lowest=2, highest=320),
    Parameter("span", "span", "quantity", "of time, up to now", "10 min", unit="s", lowest=0, above=True),
    Parameter("lowest", "lowest", "any quantity", "reading at its foot; by its data if left out", optional=True),
    Parameter("highest", "highest", "any quantity", "reading on top; by its data if left out", optional=True),
    COLOUR,
    ALARM_COLOUR,
    *RANK,
)


_ENDS = (
    Parameter("lowest", "lowest", "any quantity", "reading; as the channel's lowest if left out", optional=True),
    Parameter("highest", "highest", "any quantity", "reading; as the channel's highest if left out", optional=True),
)


DIAL = (
    CHANNEL,
    *PLACE,
    Parameter("width", "width", "integer", "pixels across", 41, lowest=5, highest=480),
    Parameter("tall", "tall", "integer", "pixels", 21, lowest=5, highest=320),
    Parameter(
        "sweep", "sweep", "quantity", "of its scale, open at the bottom", "180 °", unit="°", lowest=30, highest=330
    ),
    *_ENDS,
    COLOUR,
    ALARM_COLOUR,
    *RANK,
)


SPECTRUM = (
    CHANNEL,
    *PLACE,
    Parameter("width", "width", "integer", "pixels across", 64, lowest=2, highest=480),
    Parameter("tall", "tall", "integer", "pixels", 16, lowest=2, highest=320),
    Parameter("bars", "bars", "integer", "bands of frequency", 16, lowest=2, highest=128),
    Parameter(
        "span", "span", "quantity", "of the waveform, up to now", "100 ms", unit="s", lowest=0, above=True, highest=60
    ),
    Parameter("lowest", "lowest", "quantity", "frequency of the first bar", "50 Hz", unit="Hz", lowest=0, above=True),
    Parameter("highest", "highest", "quantity", "frequency of the last bar", "2 kHz", unit="Hz", lowest=0, above=True),
    Parameter(
        "range",
        "range",
        "quantity",
        "from the loudest bar down to none",
        "40 dB",
        unit="dB",
        lowest=0,
        above=True,
        highest=200,
    ),
    COLOUR,
    ALARM_COLOUR,
    *RANK,
)


BUBBLE = (
    Parameter("across", "across", "text", "channel that moves it to the right", longest=60, names="channels"),
    Parameter("up", "up", "text", "channel that moves it up", longest=60, names="channels"),
    Parameter(
        "sized_by", "sized by", "text", "channel that makes it large; empty: none", "", longest=60, names="channels"
    ),
    *PLACE,
    Parameter("width", "width", "integer", "pixels across", 25, lowest=5, highest=480),
    Parameter("tall", "tall", "integer", "pixels", 25, lowest=5, highest=320),
    Parameter("size", "size", "integer", "pixels across at its largest", 5, lowest=1, highest=64),
    *(
        Parameter(
            f"{name}_{end}",
            f"{name} {end}",
            "any quantity",
            f"reading; as the channel's {limit} if left out",
            optional=True,
        )
        for name in ("across", "up", "size")
        for end, limit in (("from", "lowest"), ("to", "highest"))
    ),
    COLOUR,
    ALARM_COLOUR,
    *RANK,
)


PICTURE = (
    Parameter("picture", "picture", "text", "one of the project's pictures", longest=60, names="pictures"),
    *PLACE,
    Parameter("every", "every", "quantity", "from frame to frame; 0: as the file says", "0 s", unit="s", lowest=0),
    COLOUR,
    *RANK,
)
