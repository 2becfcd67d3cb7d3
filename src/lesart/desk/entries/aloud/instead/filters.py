"""Requests that 5 Calm does not have: what does the work instead, or why nothing does."""

from __future__ import annotations

from lesart.core.units import Unit
from lesart.desk.entries.aloud.instead.asked import Asks, first_of

_NEAREST = "mean, median and low-pass come nearest"
_ENDS = "no filter clamps a reading; reject range drops what is beyond its limits"
_HUM = "a mean over whole periods removes hum; where there is hum a note proposes the shortest"
_LEVEL = "that would remove the level, which is the reading itself; an offset is corrected in 4 True"
_OTHER = "a filter cannot do that; + in 3 Law has {law}"
INSTEAD: Asks = (
    (
        r"hampel|mad\b|.*\b(?:outliers?|spikes?|glitch\w*)\b|\d\s*sigma",
        "median 5 takes single wrong values out, and ignore jumps over so much drops what changes too fast",
    ),
    (
        r"(?:wait|until)\b.*\b(?:stable|steady|settle[sd]?|rest)|stab(?:le|ility)\s+(?:detect\w*|check)",
        "settling gate marks a reading until the last few samples agree; write it like settling gate 10",
    ),
    (
        r"(?:remove|correct|compensate|without)\s+(?:the\s+|its\s+)?drift",
        "a filter cannot tell drift from the reading; references at + in 4 True correct it, and z there takes a tare",
    ),
    (r"double\s+exponential", "two of them do it: exponential 0.2 then exponential 0.2"),
    (r"notch|band[- ]?(?:stop|reject)|.*\bhum\b|.*\b(?:50|60) ?Hz\b", _HUM),
    (r"high[- ]?pass|band[- ]?pass|dc[- ]?block", _LEVEL),
    (
        r"(?:slew|rate)[\s-]*(?:rate|limit)|limit(?:ed)?\s+(?:the\s+|its\s+)?(?:rate|slope|speed|change)|max(?:imum)?\s+(?:rate|change|slope|step)",
        "no filter slows a reading down to a rate; reject rate drops what jumps, and time constant follows slowly",
    ),
    (
        r"(?:no|without|remove|delete|clear|disable)\s+(?:the\s+|all\s+|any\s+)?filter|(?:none|off|raw)$",
        "select the filter with tab, then press delete",
    ),
    (
        r"(?:one|1|a|single)\s+(?:reading|sample|value)s?\s+(?:per|a|every|each)|update|(?:sample|sampling|output)\s+rate",
        "decimate 10 keeps every 10th sample; how often a display is drawn is set in 8 Pace",
    ),
    (r"kalman|alpha[\s-]?beta", "tracking has two weights, level and slope, each above 0 and up to 1"),
    (
        r"(?:(?:peak|max\w*|min\w*|highest|lowest)\b.*\b(?:last|past|hold)|(?:moving|rolling|running|sliding)\s+"
        r"(?:peak|max\w*|min\w*|highest|lowest))\b",
        "highest so far, every = 5 s begins again every 5 s, and so does lowest so far",
    ),
    (r"clamp|clip|saturate|limit\b", _ENDS),
    (r"rms|root mean square", _OTHER.replace("{law}", "windowed RMS")),
    (
        r"integrat|sum\b|total|accumulat|add(?:s|ed)?\b",
        _OTHER.replace("{law}", "total over time, sum and counter rise"),
    ),
    (r"derivative|differentiat|rate of change|slope\b", _OTHER.replace("{law}", "change over time")),
    (
        r"peak|max|min",
        "highest so far and lowest so far keep the extremes of a reading, for good or, with every = 24 h, by the day",
    ),
    (r"round|quanti[sz]e|snap", "only a field rounds; + in 6 Fit takes decimals"),
    (r"debounce", "filters work on numbers; for a contact use debounce, a sum in 1 Wire"),
    (r"zero\b|squelch|gate\b", "deadband holds back small changes; z in 4 True takes a tare"),
    (
        r"savitzky|golay|gauss|spline|polynomial|bessel|chebyshev|fir\b",
        _NEAREST,
    ),
    (
        r"\d+(?:[.,]\d+)?(?:\s+(?:samples?|readings?))?$",
        "say which filter, like mean 8, median 5, exponential 0.2 or deadband 0.1 {unit}",
    ),
    (
        r".*\bcent(?:red|ered)",
        "a filter cannot know readings that are still to come; a mean lags by half of its samples",
    ),
    (
        r"faster|quicker|less lag|slower|lag\b|settl|respon|delay|react",
        "each filter shows its lag; fewer samples are quicker, enter changes them",
    ),
    (
        r"smooth|calm|quiet|filter|less|reduce|remove|steady|stab|noise|jitter|.*\b(?:noisy|jumps|jumpy|unsteady|"
        r"jitters|wanders|flickers)\b",
        "noise asks for the cheapest filters that leave no more than that; write it like noise 0.02 {unit}",
    ),
)
"""Patterns for the beginning of a request, and the sentences; the surest first."""


def instead_of(typed: str, unit: Unit) -> str:
    """A sentence on a request; empty where it is not recognised."""
    said = typed.strip()
    found = first_of(INSTEAD, said)
    return f'"{said}": {found.format(unit=unit.step)}.' if found else ""
