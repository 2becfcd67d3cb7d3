"""Recordings of the yard's lines, as Lesart itself would have written them: the scale of hive 1 and the mast.

Both come from the rig's own devices, so that what is recorded and what is heard live are of one kind.
"""

from __future__ import annotations

import math
import random
from datetime import UTC, datetime

from lesart.core.block import Mark
from lesart.core.raw.lines.received import Event, Received
from lesart.core.raw.lines.text_line import TextState, joined, take
from lesart.demo.signals import DURATION_S, SEED
from lesart.live.rig.signals import scale_line, weather
from lesart.project.captures.recording import head_text, rows_text

STARTED = datetime(2026, 5, 14, 8, tzinfo=UTC)
PULLED_S, PLUGGED_S = 3105, 3160
"""Somebody tripped over the cable of hive 1."""
DISTURBED_S = (1204, 1206, 5590)
"""Seconds in which a mower's ignition got into the line."""
NO_REPLY_S, WRONG_S = (800, 801, 4411), (2202, 6040)
"""Polls of the mast that nobody answered, and answers with a wrong checksum."""


def hive_recording() -> str:
    """Two hours of the scale's lines, one in two seconds, through the same reader that listens to it live."""
    dice = random.Random(SEED)
    state = joined(TextState(byte_s=10 / 115_200), 0.0)
    parts = []
    for second in range(2, int(DURATION_S) + 1, 2):
        line = scale_line(float(second), dice)
        if PULLED_S <= second < PLUGGED_S:
            if second == PULLED_S + 1:
                parts.append(_gone(state, second))
            continue
        if second in DISTURBED_S:
            line = line[:9] + b"\xff\x07" + line[12:]
        state, heard = take(state, line, second + 0.004 * dice.random())
        parts.append(heard)
    columns = next(heard.columns for heard in parts if heard.columns)
    text = head_text("source hive 1: text line, rig/scale, 115200 baud", STARTED, columns)
    return text + "".join(map(rows_text, parts))


def _gone(state: TextState, second: int) -> Received:
    width = len(state.columns)
    event = Event(float(second), "gone", "the port went away")
    return Received(state.columns, (float(second),), ((math.nan,) * width,), (int(Mark.MISSING),), (event,))


def mast_recording() -> str:
    """Two hours of polls, one a second: pressure, wind from, wind speed, air."""
    dice = random.Random(SEED + 5)
    columns = ("pressure", "wind from", "wind", "air")
    parts = []
    for second in range(1, int(DURATION_S) + 1):
        now, t = weather(float(second)), round(second + 0.03 * dice.random(), 6)
        values: tuple[float, ...] = (
            float(round(now.pressure_pa)),
            round(now.wind_from_deg, 1),
            round(now.wind_m_s, 3),
            round(now.air_c, 1),
        )
        if second in NO_REPLY_S:
            event = Event(t, "no reply", "unit 7, input 0 to 3: nothing came within 0.5 s")
            parts.append(Received(columns, (t,), ((math.nan,) * 4,), (int(Mark.MISSING),), (event,)))
        elif second in WRONG_S:
            event = Event(t, "checksum", "unit 7, input 0 to 3: CRC-16 is 0x7A10, not 0x2F10")
            parts.append(Received(columns, (t,), ((math.nan,) * 4,), (int(Mark.CHECKSUM),), (event,)))
        else:
            parts.append(Received(columns, (t,), (values,), (1,)))
    text = head_text("source mast: Modbus RTU, rig/mast, 19200 baud", STARTED, columns)
    return text + "".join(map(rows_text, parts))
