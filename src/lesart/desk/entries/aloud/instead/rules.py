"""Requests to 6 Fit that are not rules of a field: which rule or step does it."""

from __future__ import annotations

import re

from lesart.desk.entries.aloud.instead.asked import Asks, first_of

ASKS: Asks = (
    (
        r"(?:auto(?:matic)?|best|honest|suitable)\s+(?:decimals?|places|precision)|(?:as\s+)?many\s+decimals",
        "how many decimals are worth showing stands on this screen as honest decimals; write that many, like 1 decimal",
    ),
    (
        r"(?:\w+\s+){0,3}decimals?\s+(?:below|under|above|over|up\s+to)\s+\d",
        "a field has the same decimals over its range, or as many as fit: up to 2 decimals",
    ),
    (
        r"(?:suppress|hide|blank)(?:\s+(?:if|when|for))?\s+(?:it\s+is\s+)?(?:zero|0)\b|(?:zero|0)\s+(?:as|is)\s+blank",
        "a reading of zero is shown as one; words replace ranges, each up to its limit, like words off < 1; on",
    ),
    (
        r"(?:label|caption|title|prefix|name|text)\s*[=:]?\s+\S.*|\w+\s*:$",
        'a text before the number is an item of its own: + in 7 Glass takes it, like "T="',
    ),
    (
        r"(?:(?:in|as)\s+)?(?:hex(?:adecimal)?|bin(?:ary)?|octal)\b",
        "a field shows decimal numbers; which bits mean what is set in 2 Raw",
    ),
    (
        r"(?:on\s*/\s*off|yes\s*/\s*no|open\s*/\s*closed|true\s*/\s*false|words?)\b",
        "words replace ranges, each up to its limit, like words low < 5; ok < 43; full",
    ),
    (
        r"(?:never\s+(?:show\s+)?|no\s+|without\s+)?[-−]\s?0(?:[.,]0+)?\b|(?:no\s+)?(?:negative|minus)\s+zero",
        "what rounds to zero never has a minus",
    ),
    (
        r"clamp|cap\b|clip|saturate",
        "a clamped reading hides what is wrong; what does not fit shows its overflow, and min(max(x, 0), 999) at + in "
        "3 Law clamps it all the same",
    ),
    (
        r"scroll|marquee|ticker",
        "fields and faces do not scroll; what has no room goes on another face, shown in turn: + face NAME in 7 Glass",
    ),
    (
        r"(?:steps?(?:\s+of)?|in\s+steps|every)\s+\d",
        "a field rounds to decimals; steps of 0.5 are a law, like 0.5 * floor(x / 0.5 + 0.5) at + in 3 Law",
    ),
    (r"ceil(?:ing)?\b|round(?:ed)?\s+up", "round is half away, half even, down, floor or cut by code"),
    (
        r".*\b(?:below|under|above|over|when|if|up\s+to)\b.*\d",
        "words replace ranges, each up to its limit, like words low < 5; ok < 43; full; + in 5 Calm adds an alarm",
    ),
    (
        r"round(?:ed|ing)?\s+(?:to|in|by)\s+(?:(?:the\s+)?nearest\s+|steps?\s+of\s+)?\d",
        "a field rounds to decimals; steps of 0.5 are a law, like 0.5 * floor(x / 0.5 + 0.5) at + in 3 Law",
    ),
    (
        r"min(?:imum)?\s+(?:and|&|/)\s+max|max(?:imum)?\s+(?:and|&|/)\s+min",
        "a field shows one reading: C copies the channel, and highest so far at + in 5 Calm keeps its maximum",
    ),
    (
        r"(?:max(?:imum)?|limit|lowest|highest)\s+[-−]?\d",
        "its range is lowest and highest, values in 3 Law; they say how wide the field has to be",
    ),
    (r"(?:don'?t|do\s+not|never)\s+round", "round = down cuts off what comes after the last decimal"),
    (
        r"(?:blink|flash)",
        '"blinks at" is a value of the item in 7 Glass, and + in 5 Calm adds an alarm for what is beyond a limit',
    ),
    (
        r"(?:scientific|exponent|engineering|power\s+of)",
        "a field has no exponent; prefix by range writes k, M, m or µ in front of the unit",
    ),
    (
        r"(?:\w+\s+)?(?:significant|sig)\b",
        "a field has decimals; how many are worth showing follows from the uncertainty, in 3 Law, how sure",
    ),
    (r"(?:clock|time\s+of\s+day|date)\b", "+ text time of day in 7 Glass shows a clock"),
    (
        r"(?:m+:ss|h+:mm|time\b|elapsed|duration|countdown|(?:days?|hours?|minutes?|seconds?)\b.*\b(?:hours?|minutes?|seconds?)\b)",
        "a reading in seconds is shown as h:mm:ss by shows elapsed",
    ),
    (
        r"(?:an?\s+)?(?:bar(?:\s?graph)?|graph|gauge|dial|trend|chart|icon|picture)\b",
        "+ in 7 Glass adds it beside the field, like bar or trend",
    ),
    (
        r"(?:font|big|bigger|large|bold|small|size|italic|tall)\b",
        "its size is that of its font, a value of items on pixel panels in 7 Glass",
    ),
    (r"(?:colou?r|red|green|yellow|blue|invert|inverse)\b", "its light is a value of the panel in 7 Glass"),
    (
        r"(?:(?:the\s+)?last\s+digit|less\s+|no\s+|calm|steady|quiet|jump|jitter|flicker|restless|stop)",
        "its last digit is steadier with fewer decimals, or after a filter in 5 Calm; restless over is its limit",
    ),
    (r"(?:round(?:ed|ing)?|cut|truncat\w*)\b", "round is half away, half even, down, floor or cut by code"),
    (
        r"(?:row|column|line|move|position|place|top|bottom)\b",
        "its place is set in 7 Glass, by row and column",
    ),
    (r"(?:update|refresh|redraw|sample)\b", "how often it is drawn is set in 8 Pace, like refresh at 5 Hz"),
    (r"%|per\s?cent", "3 Law turns it into per cent, like map 0..5 V to 0..100 %"),
)


def done_otherwise(typed: str) -> str:
    """How it is done; empty where it is not recognised."""
    bare = re.sub(r"^(?:please|show|shown|display|with|as|use|make\s+it)\s+", "", typed.strip().lower())
    return first_of(ASKS, bare)
