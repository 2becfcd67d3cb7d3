"""A filter or an alarm as people say it aloud, put into the words that 5 Calm takes.

``a moving average of 16 samples`` is ``mean 16``. What may be something else here is left: a limit to the rate, and
smoothing by a factor, which some take of the old and some of the new.
"""

from __future__ import annotations

import re

NUMBER = r"[-−]?\d+(?:[.,]\d+)?(?:\s*[^\s\d,]+)?"
_LIMITS = re.compile(
    rf"^(?:ignore|drop|reject|without)\s+(?:all\s+|values?\s+|readings?\s+)*"
    rf"(?P<side>above|over|below|under)\s+(?P<at>{NUMBER})$"
)
_RANGE = re.compile(rf"^(?:(?:reject|keep)\s+)?range\s+(?:from\s+)?(?P<low>{NUMBER})\s+to\s+(?P<high>{NUMBER})$")
_EVERY = re.compile(r"^(?:take\s+)?(?:every|each|one in)\s+(?P<n>\d+)(?:st|nd|rd|th)?(?:\s+samples?)?$")
_MOVING = r"(?:moving|rolling|running|sliding)"
_CALLED = (
    (r"^(?:exponential(?:ly)?|weighted)\s+(?:weighted\s+)?(?:moving\s+)?(?:average|mean)\b|^ema\b", "exponential"),
    (rf"^{_MOVING}\s+(?:average|mean)\b|^average\b|^mean filter\b|^boxcar\b", "mean"),
    (rf"^{_MOVING}\s+median\b|^median filter\b|^spike filter\b", "median"),
    (r"^(?:remove|reject|without)\s+(?:the\s+)?(?:outliers|spikes|glitches)\b", "median"),
    (r"^low[\s-]?pass(?:\s+filter)?\b", "low-pass"),
    (r"^(?:tau|time constant)\s*(?:=|of)", "time constant"),
    (r"^(?:dead[\s-]?(?:band|zone))\b", "deadband"),
)
_SMALL = re.compile(r"\s+(?:of|at|with|over|by|the|last|filter)(?=\s)|\s+samples?$")
_ORDER = re.compile(r"(?:,\s*)?\border\s+(?=\d)")
_SIDE = re.compile(
    r"^(?:if|when|at)?\s*(?:it\s+is\s+)?(?:(?P<above>above|over|more than|>)|(?P<below>below|under|less than|<))\s*"
)


def filter_plainly(typed: str) -> str:
    """The phrase as it was where it is none of these: names and their values are taken as they are."""
    if "=" in typed and not typed.strip().lower().startswith("tau"):
        return typed
    said = re.sub(r"^(?:an? |the )", "", typed.strip(), count=1, flags=re.IGNORECASE)
    lowered = said.lower()
    if found := _EVERY.match(lowered):
        return f"decimate {found['n']}"
    if found := _RANGE.match(lowered):
        return f"reject range lowest = {_of(said, found, 'low')}, highest = {_of(said, found, 'high')}"
    if found := _LIMITS.match(lowered):
        end = "highest" if found["side"] in ("above", "over") else "lowest"
        return f"reject range {end} = {_of(said, found, 'at')}"
    for pattern, name in _CALLED:
        if found := re.match(pattern, lowered):
            said = f"{name}{said[found.end() :]}"
            break
    plain = _SMALL.sub("", said)
    return _ORDER.sub(", order = ", plain) if plain != typed.strip() or _ORDER.search(plain) else typed


def _of(said: str, found: re.Match[str], group: str) -> str:
    """As it was typed: units have large letters."""
    return said[found.start(group) : found.end(group)].strip()


def alarm_plainly(typed: str) -> str:
    """``if it is over 43 kg`` as ``above 43 kg``."""
    found = _SIDE.match(typed.strip().lower())
    if found is None:
        return typed
    return f"{'above' if found['above'] else 'below'} {typed.strip()[found.end() :]}"
