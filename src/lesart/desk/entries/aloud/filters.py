"""A filter as people say it, translated into what 5 Calm accepts.

``a moving average of 16 samples`` is ``mean 16``. Ambiguous phrases are left alone: a rate limit, and smoothing by a
factor, which some apply to the old and some to the new value.
"""

from __future__ import annotations

import math
import re

from lesart.core.calm import KINDS
from lesart.core.errors import RequestError
from lesart.core.law.over_time.periods import lasting
from lesart.core.quantity import beside_unit, plain_number
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit, ratio_symbol
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.kept import kept_plainly
from lesart.desk.entries.said.patterns import any_case

SECOND, HERTZ, OHM, FARAD, PLAIN = (parse_unit(each) for each in ("s", "Hz", "Ω", "F", "1"))

NUMBER = r"[-−]?\d+(?:[.,]\d+)?(?:\s*(?!to\b|and\b)[^\s\d,.…–-][^\s\d,]*)?"
_LIMITS = re.compile(
    r"^(?:ignore|drop|reject|discard|remove|throw\s+out|without)\s+"
    r"(?:(?:all|any|anything|everything|values?|readings?|samples?|outliers|what\s+is|that\s+(?:is|are))\s+)*"
    rf"(?P<side>above|over|below|under|greater\s+than|more\s+than|less\s+than|[<>])\s*(?P<at>{NUMBER})$"
)
_RANGE = re.compile(rf"^(?:(?:reject|keep)\s+)?range\s+(?:from\s+)?(?P<low>{NUMBER})\s+to\s+(?P<high>{NUMBER})$")
_OUTSIDE = re.compile(
    r"^(?:(?:ignore|drop|reject|discard|remove|exclude|throw\s+out)\s+(?:(?:all|any|anything|everything|values?|readings?|"
    r"samples?|what\s+is)\s+)*(?:outside(?:\s+of)?|beyond|not\s+(?:between|within))|(?:only\s+)?(?:keep|accept|allow|use)\s+"
    r"(?:only\s+)?(?:(?:values?|readings?|samples?)\s+)?(?:between|within|from|inside))\s+"
    rf"(?P<low>{NUMBER})\s*(?:to|and|-|–|\.\.+|…)\s*(?P<high>{NUMBER})$"
)
_EITHER_END = re.compile(
    r"^(?:ignore|drop|reject|discard|remove|throw\s+out|without)\s+"
    r"(?:(?:all|any|anything|everything|values?|readings?|samples?|outliers|what\s+is|that\s+(?:is|are))\s+)*"
    rf"(?P<first>above|over|below|under|greater\s+than|more\s+than|less\s+than|[<>])\s*(?P<one>{NUMBER})\s*(?:,|or|and)+\s*"
    rf"(?:or\s+|and\s+)?(?:above|over|below|under|greater\s+than|more\s+than|less\s+than|[<>])\s*(?P<other>{NUMBER})$"
)
"""``drop what is under -10 or over 60``."""
_EVERY = re.compile(
    r"^(?:(?:only|take|keep|use)\s+)*(?:every|each|one in)\s+(?P<n>\d+)(?:st|nd|rd|th)?(?:\s+samples?)?$"
)
_MOVING = r"(?:moving|rolling|running|sliding)"
_CALLED = (
    (
        r"^(?:exponential(?:ly)?|weighted)\s+(?:weighted\s+)?(?:moving\s+)?(?:average|mean|smoothing|filter)\b|^ema\b",
        "exponential",
    ),
    (rf"^{_MOVING}\s+(?:average|avg|mean)\b|^(?:average|avg)\b|^mean filter\b|^boxcar\b", "mean"),
    (r"^iir(?:\s+filter)?(?:\s+alpha)?\b|^alpha\b(?!\s*-?\s*beta)", "exponential"),
    (r"^oversampl\w*(?:\s+by)?\b", "mean"),
    (r"^smooth(?:\s+(?:over|with))?(?=\s+\d+(?:\s+samples)?$)", "mean"),
    (r"^(?:kalman|alpha[\s-]?beta)(?:\s+filter)?\b", "tracking"),
    (rf"^{_MOVING}\s+median\b|^median filter\b|^(?:spike|outlier) filter\b|^de-?spike\b", "median"),
    (r"^hold\s+(?:the\s+)?(?:last\s+)?(?:good\s+)?(?:value|reading)?(?:\s*for)?(?=\s|$)", "hold"),
    (r"^(?:remove|reject|without)\s+(?:the\s+)?(?:outliers|spikes|glitches)\b", "median"),
    (
        r"^(?:low[\s-]?pass(?:\s+filter)?|lpf?|butterworth(?:\s+filter)?|bandwidth|(?=cut-?off))\b"
        r"(?:,?\s*(?:with\s+)?(?:an?\s+)?cut-?off(?:\s+frequency)?\b)?",
        "low-pass",
    ),
    (
        r"^(?:tau|time constant|rc(?:[\s-](?:filter|low-?pass))?(?=\s+(?:of\s+)?\d+(?:[.,]\d+)?\s*m?s\b))\b"
        r"(?:\s*(?:=|of\b))?",
        "time constant",
    ),
    (
        r"^(?:dead[\s-]?(?:band|zone)|hysteresis|(?:only\s+)?(?:change|update)s?\s+(?:only\s+)?(?:when|if)\s+it\s+"
        r"(?:moves|changes)(?:\s+by)?(?:\s+more\s+than)?(?=\s)|"
        r"ignore (?:changes|small changes)(?: (?:below|under|less than))?)\b",
        "deadband",
    ),
)
_LASTING = r"\d+(?:[.,]\d+)?\s*(?:m?s(?:ec(?:ond)?s?)?|milliseconds?|min(?:ute)?s?|h(?:ou)?rs?|h)"
_WHAT = r"(?:(?:moving|rolling|running|sliding)\s+)?(?:average|avg|mean|median|smooth(?:ed|ing)?)(?:\s+filter)?"
_OVER_TIME = re.compile(
    rf"(?:an?\s+|the\s+)?(?:{_WHAT}\s+(?:(?:over|of|for)\s+)?(?:the\s+)?(?:last\s+)?(?P<time>{_LASTING})|"
    rf"(?P<before>{_LASTING})\s+{_WHAT}|"
    rf"{_WHAT}\s+(?:per|each|every|in\s+(?:a|each))\s+(?P<per>minute|hour|day|{_LASTING})|"
    rf"(?P<often>hourly|daily)\s+{_WHAT})",
    re.IGNORECASE,
)
_JUMPS = re.compile(
    r"(?:ignore|drop|reject|remove|without|throw\s+out)\s+(?:all\s+)?(?:jumps?|steps?|spikes?|changes?)\s+"
    rf"(?:of\s+)?(?:over|above|(?:by\s+)?(?:more|larger|bigger|greater)\s+than)\s+(?P<by>{NUMBER})",
    re.IGNORECASE,
)
_FASTER = re.compile(
    r"(?:ignore|drop|reject|remove|exclude|throw\s+out)\s+(?:(?:all|any|anything|values?|readings?|samples?|what|that|which)\s+)*"
    r"(?:changes?|changing|jumps?|rises?|moves?|moving)\s+(?:by\s+)?(?:more|faster|quicker)\s+than\s+(?P<by>[-−]?\d+(?:[.,]\d+)?"
    r"(?:\s*[^\s\d,/]+)?)\s*(?:per\s+|an?\s+|each\s+|/\s*)(?P<time>s(?:ec(?:ond)?)?|min(?:ute)?|h(?:our)?)",
    re.IGNORECASE,
)
_VALUE_ALONE = re.compile(
    rf"(?:ignore|drop|reject|skip|throw\s+(?:out|away)|without)\s+(?:the\s+)?(?:value\s+)?(?P<at>{NUMBER}|zeros?|nan)$",
    re.IGNORECASE,
)
FIRST = re.compile(r"(?:ignore|skip|drop|discard|throw\s+(?:out|away))\s+(?:the\s+)?first\b", re.IGNORECASE)
"""Phrases that are not filters but belong in 2 Raw."""
_EXTREME = re.compile(
    r"(?:(?:keep|hold|remember|show|take)s?\s+(?:the\s+)?)?(?P<often>daily\s+|hourly\s+|weekly\s+)?"
    r"(?:(?P<max>max(?:imum)?|highest|greatest|largest|peak|top)|min(?:imum)?|lowest|least|smallest)"
    r"(?:\s+(?:values?|readings?|so\s+far|hold|ever|seen|of\s+all|since\s+(?:the\s+)?(?:start|beginning|power[\s-]?up)))*"
    r"(?:,?\s+(?:(?:reset|anew)\s+)?(?:of\s+(?:a|the|each)|per|each|every|a|(?:in|within|for)\s+(?:an?|one))\s+"
    rf"(?P<every>minute|hour|day|week|{_LASTING})|\s+(?:(?:over|of|for|in|within)\s+)?(?P<over>{_LASTING})|"
    r"\s+(?P<today>today))?",
    re.IGNORECASE,
)
_GUST = re.compile(rf"(?:a\s+)?gusts?(?:\s+(?:over|of|for|in|within))?\s+(?P<over>{_LASTING})", re.IGNORECASE)
"""The highest wind of so long."""
DAY = "24 h"
_TIMES = {"s": SECOND, "m": parse_unit("min"), "h": parse_unit("h")}
_PERIODS = {
    "second": "1 s",
    "minute": "1 min",
    "hour": "1 h",
    "day": DAY,
    "week": "168 h",
    "daily": DAY,
    "hourly": "1 h",
}
_PERIODS["weekly"] = "168 h"
_LOW_PASS = r"(?:low[\s-]?pass|butterworth)(?:\s+filter)?"
_ORDER_SAID = r"(?P<{0}>first|second|third|fourth|1st|2nd|3rd|4th)[\s-]+order"
_NTH_ORDER = re.compile(
    rf"^{_ORDER_SAID.format('order')}\s+{_LOW_PASS}\b|^{_LOW_PASS},?\s+{_ORDER_SAID.format('behind')}\b"
    rf"|^{_LOW_PASS}\s+(?P<at>[^,]*?),?\s+{_ORDER_SAID.format('last')}$"
)
_ORDERS = {"first": 1, "second": 2, "third": 3, "fourth": 4, "1st": 1, "2nd": 2, "3rd": 3, "4th": 4}
_RC = re.compile(
    r"(?:rc(?:\s+(?:filter|of|with))*|r\s*=?)\s+(?P<ohms>\d+(?:[.,]\d+)?\s*[kM]?\d*\s*(?:Ω|ohms?)?)\s*(?:,|and|x|\*|/|with)?\s*"
    r"(?:c\s*=?\s*)?(?P<farads>\d+(?:[.,]\d+)?\s*[pnuµm]?F)",
    re.IGNORECASE,
)
_THEN = re.compile(r",? (?:and )?then | followed by | ?(?:->|→) ?", re.IGNORECASE)
"""Between filters that follow one another."""
_FEWER = re.compile(
    r"(?:down-?sample|resample|decimate|thin out)\s+(?:to\s+)?(?P<rate>\d+(?:[.,]\d+)?\s*[km]?Hz)|"
    rf"(?:(?:(?:one|once|a)\s+)?(?:(?:reading|sample|value)\s+)?every|(?:one|once)\s+(?:per|each|an?))\s+"
    rf"(?P<time>second|minute|hour|day|{_LASTING})",
    re.IGNORECASE,
)
_THINNED = re.compile(
    r"oversampl\w*\s+(?:by\s+)?(?P<many>\d+)\s*x?\s*(?:,|and)+\s*(?:and\s+)?(?:decimat\w*|thin\s+out|downsampl\w*)|"
    r"(?:oversampl\w*|average|mean)\s+and\s+(?:decimat\w*|thin\s+out|downsampl\w*)(?:\s+by)?\s+(?P<n>\d+)\s*x?"
    r"|(?:average|mean)\s+(?:of\s+)?(?P<each>\d+)(?:\s+(?:readings?|samples?|values?))?\s*,?\s*(?:and\s+)?(?:then\s+)?"
    r"(?:send|output|report|keep|emit|pass)\s+(?:only\s+)?(?:one|once|the\s+(?:mean|average))(?:\s+(?:value|reading))?",
    re.IGNORECASE,
)
"""A mean of so many, of which one in so many goes on."""
_AND_REPORT = re.compile(
    r"(?P<average>(?:average|mean)\s.*?\d.*?)\s*,?\s+(?:and\s+)?(?:then\s+)?(?:report|send|output|keep|pass)(?:s|ed)?\s+"
    r"(?:(?:it|that|one|only)\s+)*(?:(?:every|each|once\s+(?:per|a|every|each)|a)\s+)(?P<every>.+)",
    re.IGNORECASE,
)
"""``average over 1 minute and report every minute``."""
_EXPONENTIAL_TIME = re.compile(
    rf"(?:ema|exponential(?:ly)?(?:\s+(?:weighted\s+)?(?:moving\s+)?(?:average|smoothing|filter|mean))?)\s+"
    rf"(?:(?:of|over|with)\s+)?(?P<time>{_LASTING})",
    re.IGNORECASE,
)
_WITH_CONSTANT = re.compile(
    rf"(?:(?:low[\s-]?pass|filter|rc)(?:\s+filter)?(?:\s+(?:with|of|by))?(?:\s+an?)?\s+)?(?P<time>{_LASTING})\s+"
    r"time\s+constant",
    re.IGNORECASE,
)
_BY_CONSTANT = re.compile(
    rf"(?:low[\s-]?pass|lpf?)(?:\s+filter)?(?:\s+(?:with|of|by|over))?\s+(?P<time>{_LASTING})", re.IGNORECASE
)
_SHARE_IN = re.compile(
    rf"(?:(?:it\s+)?(?:reach(?:es)?|settles?\s+to|follows?\s+to|get\s+to)\s+)?(?P<share>\d{{1,2}}(?:\.\d+)?)\s*%\s*"
    rf"(?:of\s+a\s+(?:step|change)\s+)?(?:in|within|after)\s+(?P<time>{_LASTING})",
    re.IGNORECASE,
)
"""How much of a step is followed in a time."""
_POLES = re.compile(r"(?P<n>[1-8])[\s-]?(?:stages?|poles?)\s+low[\s-]?pass(?:\s+filter)?(?P<rest>.*)")
_OF_EACH = re.compile(
    r"(?:mean|average)\s+(?:of\s+)?(?:every|each)\s+(?P<n>\d+)(?:\s+(?:samples?|readings?|values?))?", re.IGNORECASE
)
_WITHOUT_EXTREMES = re.compile(r"(?:mean|average)\s+without\s+(?:the\s+)?(?:outliers|extremes|spikes)", re.IGNORECASE)
LEAST = 2
"""Samples of a mean or a median by its time: one alone is as it was."""
_IN_WORDS = {"two": 2, "three": 3, "four": 4, "five": 5, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "sixteen": 16}
NOISE = re.compile(
    r"noise\s+(?:(?:below|under|of|less\s+than|at\s+most)\s+)?|(?:(?:i\s+(?:want|need)|make|keep|hold)\s+)?(?:it\s+)?(?:to\s+be\s+)?"
    r"(?:steady|stable|quiet|calm)\s+(?:to|within)\s+(?:±\s*)?(?=\d)",
    re.IGNORECASE,
)
"""Before so much noise as may be left."""
_SMALL = re.compile(
    r"\s+(?:of|at|with|over|by|the|last|filter)(?=\s)|\s+(?:samples?|readings?|values?|measurements?|points?)$"
)
_DEGREES = re.compile(r"(?<=\d)\s*deg(?:rees?)?\b(?!\s*[CF]\b)", re.IGNORECASE)
_HALF = re.compile(r"\bhalf\s+an?\s+(?=[^\W\d]|[%°])", re.IGNORECASE)
_ORDER = re.compile(r"(?:,\s*)?\border\s+(?=\d)")


def one_by_one(typed: str) -> list[str]:
    """``median 3 then mean 8`` as two filters."""
    if found := _THINNED.fullmatch(typed.strip()):
        n = found["many"] or found["n"] or found["each"]
        return [f"mean {n}", f"decimate {n}"]
    if found := _OF_EACH.fullmatch(typed.strip()):
        return [f"mean {found['n']}", f"decimate {found['n']}"]
    if found := _AND_REPORT.fullmatch(typed.strip()):
        return [found["average"], f"one sample every {found['every']}"]
    if re.match(r"\s*if\b", typed, re.IGNORECASE):
        return [typed]  # what follows its then is what it does
    said = [each for each in _THEN.split(" ".join(typed.split())) if each]
    return said if len(said) > 1 else [typed]


def filter_plainly(typed: str, interval_s: float = 0.0, unit: Unit = PLAIN) -> str:
    """The phrase as it was where it is none of these: names and their values are taken as they are.

    Samples come every ``interval_s``, by which a time is so many of them and a jump so much a second; 0 where nobody
    knows. A jump without a unit is in ``unit``.

    Raises RequestError for what says too little, with what would do.
    """
    if kept := kept_plainly(typed.strip()):
        return kept
    if "=" in typed and not typed.strip().lower().startswith("tau"):
        return typed
    if _WITHOUT_EXTREMES.fullmatch(typed.strip()):
        return "trimmed mean"
    plain = _HALF.sub("0.5 ", typed)
    plain = _DEGREES.sub(f" {unit}", plain) if unit.symbol.startswith("°") else plain
    if plain != typed:
        return filter_plainly(plain, interval_s, unit)
    if interval_s and (by_time := _by_time(typed.strip(), interval_s, unit)):
        return by_time
    if _VALUE_ALONE.match(typed.strip()):
        one = f'"{typed.strip()}" is one value; + in 2 Raw takes it as no reading'
        raise RequestError(f"{one}, and a filter drops one side: ignore below or ignore above so much.")
    if FIRST.match(typed.strip()):
        raise RequestError(f'"{typed.strip()}": what comes before it settles is marked by settles in, in 2 Raw.')
    if found := _WITH_CONSTANT.fullmatch(typed.strip()) or _EXPONENTIAL_TIME.fullmatch(typed.strip()):
        return f"time constant {found['time']}"
    if found := _BY_CONSTANT.fullmatch(typed.strip()):
        return f"time constant {found['time']}"
    if (found := _SHARE_IN.fullmatch(typed.strip())) and 0 < float(found["share"]) < 100:
        # 1 - e^(-t / tau), of a step
        tau_s = -quantity_typed(found["time"], SECOND).to(SECOND) / math.log1p(-float(found["share"]) / 100)
        return f"time constant {tau_s:.6g} s"
    said = re.sub(r"[a-z]+", lambda word: str(_IN_WORDS.get(word[0], word[0])), without_article(typed))
    lowered = said.lower()
    if found := _EVERY.match(lowered):
        return f"decimate {found['n']}"
    if found := _RANGE.match(lowered) or _OUTSIDE.match(lowered):
        return f"reject range lowest = {_of(said, found, 'low')}, highest = {_of(said, found, 'high')}"
    if found := _EITHER_END.match(lowered):
        one, other = _of(said, found, "one"), _of(said, found, "other")
        is_low = found["first"] in ("below", "under", "<") or found["first"].startswith("less")
        low, high = (one, other) if is_low else (other, one)
        return f"reject range lowest = {low}, highest = {high}"
    if found := _LIMITS.match(lowered):
        end = "lowest" if found["side"] in ("below", "under", "<") or found["side"].startswith("less") else "highest"
        return f"reject range {end} = {_of(said, found, 'at')}"
    is_named = lowered.startswith(("highest so far ", "lowest so far "))
    if (found := _EXTREME.fullmatch(lowered)) and not (is_named and found["over"]):
        return _extreme(found)
    if found := _GUST.fullmatch(lowered):
        return f"highest so far, every = {quantity_typed(found['over'], SECOND)}"
    if found := _NTH_ORDER.match(lowered):
        order = _ORDERS[found["order"] or found["behind"] or found["last"]]
        rest = f" {_of(said, found, 'at')}" if found["last"] else said[found.end() :]
        return f"low-pass{_SMALL.sub('', rest)}, order = {order}"
    if found := _POLES.fullmatch(lowered):
        return f"low-pass{_SMALL.sub('', said[found.start('rest') :])}, order = {found['n']}"
    if found := _RC.fullmatch(said):
        ohm, farad = quantity_typed(found["ohms"], OHM).to(OHM), quantity_typed(found["farads"], FARAD).to(FARAD)
        return f"time constant {ohm * farad:.9g} s"
    for pattern, name in _CALLED:
        if found := any_case(pattern).match(lowered):
            said = f"{name}{said[found.end() :]}"
            break
    plain = re.sub(r"(?<=\d)\s?x$", "", _SMALL.sub("", said))
    return _ORDER.sub(", order = ", plain) if plain != typed.strip() or _ORDER.search(plain) else typed


def _by_time(said: str, interval_s: float, unit: Unit) -> str:
    """``average over 2 s`` as a number of samples, odd for a median; ``jumps over 2 °C`` as a rate."""
    if found := _OVER_TIME.fullmatch(said):
        name = "median" if "median" in said.lower() else "mean"
        said_time = found["time"] or found["before"] or found["per"] or found["often"]
        lasts = quantity_typed(_PERIODS.get(said_time.lower(), said_time), SECOND).to(SECOND)
        return f"{name} {_samples_of(said, lasts, interval_s, name)}"
    if found := _FEWER.fullmatch(said):
        time = _PERIODS.get((found["time"] or "").lower(), found["time"])
        number = quantity_typed(time, SECOND).to(SECOND) if time else quantity_typed(found["rate"], HERTZ).to(HERTZ)
        if not number > 0:
            raise RequestError(f'"{said}": there is no such interval; say one like every 10 s, or downsample to 1 Hz.')
        rate = 1 / number if time else number
        fewer = round(1 / (rate * interval_s))
        if fewer < 2:
            raise RequestError(
                f'"{said}": samples come at {plain_number(1 / interval_s, 3)} Hz here, and none is too many.'
            )
        return f"decimate {fewer}"
    if found := _FASTER.fullmatch(said):
        each = quantity_typed(re.sub(r"\s*degrees?$", "", found["by"]), unit)
        per = _TIMES[found["time"][0].lower()]
        return f"reject rate {beside_unit(f'{float(each.value):.6g}', ratio_symbol(each.unit.step, per))}"
    if found := _JUMPS.fullmatch(said):
        each = quantity_typed(re.sub(r"\s*degrees?$", "", found["by"]), unit)
        most = beside_unit(f"{float(each.value) / interval_s:.6g}", ratio_symbol(each.unit.step, SECOND))
        return f"reject rate {most}"
    return ""


def _samples_of(said: str, lasts_s: float, interval_s: float, name: str) -> int:
    """Samples in a time, odd for a median. Raises RequestError for one alone, and for more than a filter has."""
    samples = round(lasts_s / interval_s)
    if samples < LEAST:
        raise RequestError(
            f'"{said}": samples are {plain_number(interval_s, 3)} s apart here, so that is one alone, which changes '
            "nothing; say a longer time."
        )
    most = next(int(each.highest or samples) for each in KINDS[name].parameters if each.name == "samples")
    if samples > most:
        fewer = math.ceil(samples / most)
        raise RequestError(
            f'"{said}": that is {plain_number(samples)} samples, and {most} are the most; write decimate {fewer} then '
            f"{said}, or time constant {lasting(lasts_s / 3)}."
        )
    return samples + (name == "median" and samples % 2 == 0)


def _extreme(found: re.Match[str]) -> str:
    kind = "highest so far" if found["max"] else "lowest so far"
    often = (found["often"] or found["every"] or found["over"] or ("day" if found["today"] else "")).strip()
    if not often:
        return kind
    every = _PERIODS.get(often) or str(quantity_typed(often, SECOND))
    return f"{kind}, every = {every}"


def _of(said: str, found: re.Match[str], group: str) -> str:
    """The part of the text as typed, since units have capitals."""
    return said[found.start(group) : found.end(group)].strip()
