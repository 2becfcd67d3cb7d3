"""Requests to 8 Pace that are not tasks: where they are set, or which figure shows it."""

from __future__ import annotations

import re

from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

NEVER = re.compile(
    r"(?:go\s+to\s+)?(?:deep[\s-]?|light[\s-]?)?sleep|wake|(?:the\s+)?(?:main\s+)?loop(?:\s+\w+)?$|(?:run|it|this|camera)$",
    re.IGNORECASE,
)
"""Names that no task has, whatever its times: any other may be a function of the firmware."""

_SLEEP = "the processor is idle whenever no task is due and wakes when one is; sleep 10 µA says what it draws meanwhile"
_BAUD = (
    "the baud rate of a line is one of its values in 2 Raw; a task that sends has its own, like debug every "
    "1 s sends 40 bytes over serial at 9600"
)
_BATTERY = "say what it holds, like battery 2000 mAh; the figures then say how long it lasts"
_CHANGED = (
    "the figures of a display have both its bytes a drawing and those of only what changes; its task, like "
    "draw {panel} takes 5 ms, says what yours needs"
)
_FLICKER = "the figures show the refresh of the digits; multiplex at 100 Hz lights each of them that often"
ASKS: Asks = (
    (r"(?:go\s+to\s+)?(?:deep[\s-]?|light[\s-]?)?sleep|hibernat|power[\s-]?down|stand-?by|idle$|wake", _SLEEP),
    (r"(?:baud|serial|uart|usart)(?!.*\b(?:every|takes|sends)\b)|\d{3,7}\s*(?:bauds?|bps|bit/s)?$", _BAUD),
    (
        r"batter(?:y|ies)\b|runs?\s+on\b|powered\s+by|(?:\w+\s+)?(?:aaa?|coin|lithium)\b|(?:how\s+long|life\s?time)\b",
        _BATTERY,
    ),
    (
        r"(?:\w+\s+)?only\b.*chang|only\s+(?:send|draw|update|write)|(?:partial|full|whole)\s+\w+|.*\beverything",
        _CHANGED,
    ),
    (r"(?:no\s+|less\s+)?(?:flicker|ghost)", _FLICKER),
    (
        r"(?:budget|deadline|watchdog|time\s?out)\b",
        "a task has no limit of its own; most lag 2 s limits how late a reading is shown",
    ),
    (
        r"(?:\w+\s+)?(?:priority|priorities|urgent|important)\b",
        "of what is due the highest priority goes first; draw {panel} priority 8 sets it, from 1 to 9",
    ),
    (
        r"(?:main\s+)?loop(?:\s+\w+)?(?!\w)",
        "the loop turns as fast as its tasks let it; delay 10 ms makes it wait in each turn",
    ),
    (
        r"(?:rtos|threads?|cores?|(?:two|dual|second|other)\s+(?:cores?|tasks|threads)|tasks?|dma|use\s+dma)\b",
        "for what runs beside the loop type it so, like draw {panel} in background",
    ),
    (r"(?:run|it|this)\s+(?:in\s+background|by\s+interrupt)", "say what does, like draw {panel} in background"),
    (
        r"(?!.*\b(?:every|each|per|a)\b\s+(?:\d|hour|day))(?:it\s+)?(?:should\s+|must\s+)?(?:lasts?|runs?|lives?)\s+(?:for\s+)?.*(?:hour|day|week|month|year)s?$",
        "how long a battery lasts is one of the figures; battery 2000 mAh says what it holds",
    ),
    (
        r"(?:it\s+)?(?:consumes?|draws?|current|needs?|uses?)\b.*\bm?a\b.*\b(?:while|during|when)\b",
        "what a single task draws is not counted by itself: awake 40 mA is while the processor works, and other parts "
        "20 mA all else",
    ),
    (
        r"(?:averag|filter|smooth|median)\w*\b",
        "a filter belongs in 5 Calm, where + takes a line like moving average of 16",
    ),
    (r"camera\b|film", "bands on a camera follow from its shutter; camera 20 ms says it"),
    (r"jitter\b", "the figures show how late a task comes; a higher priority helps"),
    (
        r"\S+\.(?:vcd|csv|sr|bin)\b|(?:add\s+)?(?:a\s+)?trace\b",
        "a trace of what the firmware does belongs on the leaf trace: l turns to it, and + there takes its file",
    ),
    (
        r"(?:it'?s\s+|too\s+|very\s+)*(?:slow|late|laggy|sluggish)\b",
        "each task shows its share of the time, and the figures how late a reading is; y with late asks why",
    ),
    (r"debounc", "debounce is a sum in 1 Wire, for a contact; anything else an interrupt does is a task"),
    (
        r"(?:back\s?light|dim|bright)",
        "its brightness is a value of the panel in 7 Glass; for its current type displays 20 mA",
    ),
)


def done_otherwise(typed: str, panel: str) -> str:
    """How it is done; empty where it is not recognised. ``panel`` is one that the loop draws."""
    return first_of(ASKS, bare(typed)).format(panel=panel)
