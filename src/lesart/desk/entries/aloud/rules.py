"""Rules of a field as people say them: ``2 decimals, 6 wide, in °F``; or by their names, ``overflow *``."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence

from lesart.core.errors import RequestError
from lesart.core.fit.field import AS_FIT, BY_RANGE, FIXED
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.fit.rounding import MODES
from lesart.core.law.outside import MARKED
from lesart.core.notes import Written
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit
from lesart.desk.entries.aloud.compass import compass_said
from lesart.desk.entries.said.patterns import any_case
from lesart.desk.entries.typed_values import as_written
from lesart.project.tables.channels import CHANNEL

NUMBERS = {word: number for number, word in enumerate(("no", "one", "two", "three", "four", "five", "six"))}
_COUNT = rf"(?P<count>\d{{1,4}}|{'|'.join(NUMBERS)})"
_PLACES = (
    r"(?:decimals?(?:\s+(?:places?|digits?))?|dp|places|"
    r"digits?\s+(?:after|behind)\s+the\s+(?:decimal\s+)?(?:point|comma))"
)
_SIDE = r"(?P<side>left|right|centred|centered|centre|center)"
_ZEROS = r"leading zero(?:e?s)?"
_APART = re.compile(r"\s*(?:[;,](?=\s)|\band\b)\s*")
"""Separators between rules; a comma alone may be a mark."""


def _count(found: re.Match[str]) -> int:
    return NUMBERS[found["count"].lower()] if found["count"].lower() in NUMBERS else int(found["count"])


BEYOND = next(each for each in CHANNEL if each.name == "outside")
"""What happens beyond the range, which is the channel's and not a field's."""
OUTSIDE = BEYOND.name
_WHEN = {
    r"stale|(?:too\s+)?old|missing|nothing\s+comes|(?:there\s+(?:is|are)\s+)?no\s+(?:data|readings?|value)|lost|"
    r"disconnected": "stale",
    r"overflow\w*|overload\w*|over\s?range|too\s+(?:large|big|wide|high)|full": "overflow",
    r"errors?|invalid|bad|faults?|wrong|nan|(?:the\s+)?sensor\s+(?:fails|failed|fault|broken|unplugged)": "invalid",
    r"underflow|too\s+(?:small|low)|under\s?range": "underflow",
    r"settling|starting|warming\s+up|start": "settling",
}
"""Conditions under which a field shows something else, and their rules."""
SIGNS_SAID = {"dashes": "--", "dash": "-", "hyphens": "--", "stars": "**", "blank": " ", "blanks": " ", "nothing": " "}
"""Substitutes for a reading, by the name of their sign."""
_RULES: Sequence[tuple[str, Callable[[re.Match[str]], Mapping[str, Written]]]] = (
    (rf"(?:at most|up to)\s+{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said), "decimals_are": AS_FIT}),
    (rf"(?:exactly|always)\s+{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said), "decimals_are": FIXED}),
    (rf"(?:show\s+|with\s+)?{_COUNT}\s+{_PLACES}", lambda said: {"decimals": _count(said)}),
    (r"whole numbers?|integers?|without decimals", lambda said: {"decimals": 0}),
    (
        rf"(?:(?:limit(?:ed)?|fit|fits|squeeze|keep)(?:\s+it)?\s+(?:to|in|into|within)|at\s+most|max(?:imum)?|no\s+more\s+than)\s+{_COUNT}\s+"
        r"(?:cell|character|char|letter|digit|column)s?",
        lambda said: {"width": _count(said)},
    ),
    (
        rf"{_COUNT}\s+(?:(?:cell|character|char|letter|digit|column)s?(?:\s+wide)?|wide)",
        lambda said: {"width": _count(said)},
    ),
    (
        r"(?:an?\s+)?(?:min(?:imum|imal)?\s+)width(?:\s+(?:of|is))?\s+(?P<count>\d{1,4})",
        lambda said: {"width": _count(said)},
    ),
    (r"(?:a\s+)?width\s+of\s+(?P<count>\d{1,4})", lambda said: {"width": _count(said)}),
    (rf"{_SIDE}(?:[\s-]+(?:aligned|justified|hand))?", lambda said: {"align": _side(said)}),
    (
        rf"{_SIDE}(?:[\s-]+(?:aligned|justified))?\s+in\s+{_COUNT}(?:\s+(?:cells?|characters?|chars?|digits?))?",
        lambda said: {"align": _side(said), "width": _count(said)},
    ),
    (rf"{_SIDE}\s+(?:align|it)", lambda said: {"align": _side(said)}),
    (rf"(?:align(?:ed)?\s+)(?:to\s+the\s+)?{_SIDE}", lambda said: {"align": _side(said)}),
    (rf"(?:with\s+|show\s+)?{_ZEROS}|zero[\s-]padded|pad(?:ded)?\s+with\s+zero(?:e?s)?", lambda said: {"pad": "zero"}),
    (
        rf"(?:(?:with\s+|show\s+)?{_ZEROS}|pad(?:ded)?\s+with\s+zero(?:e?s)?|zero[\s-]?pad(?:ded)?)[\s,]+(?:to\s+)?"
        rf"{_COUNT}(?:\s+(?:digits?|characters?|cells?))?",
        lambda said: {"pad": "zero", "width": _count(said)},
    ),
    (rf"{_COUNT}\s+digits?[\s,]+(?:with|and)\s+{_ZEROS}", lambda said: {"pad": "zero", "width": _count(said)}),
    (rf"(?:no|without)\s+{_ZEROS}|pad(?:ded)?\s+with\s+(?:blanks?|spaces?)", lambda said: {"pad": "blank"}),
    (
        r"(?:always\s+)?(?:with\s+|show\s+)?(?:a\s+|the\s+)?(?:plus|\+\s?/\s?-|±|\+)(?:\s+sign)?(?:\s+always)?|(?:always\s+)?(?:(?:with|show)\s+)?(?:a\s+|the\s+)?sign(?:\s+always)?|\+\s?/\s?-|±",
        lambda said: {"sign": "always"},
    ),
    (r"(?:no|without(?:\s+a)?)\s+sign", lambda said: {"sign": "never"}),
    (r"(?:no|without(?:\s+a)?|(?:hide|remove|drop)(?:\s+the)?)\s+unit", lambda said: {"unit_text": ""}),
    (
        r"(?:with\s+|use\s+)?(?:an?\s+)?(?:decimal\s+)?(?P<mark>comma|point)(?:\s+(?:as|for)\s+(?:the\s+|an?\s+)?decimal"
        r"(?:\s+(?:point|mark|separator))?|\s+instead\s+of\s+(?:a\s+|the\s+)?(?:decimal\s+)?(?:point|comma|dot))?",
        lambda said: {"point": said["mark"].lower()},
    ),
    (
        r"(?:with\s+)?(?:an?\s+)?thousands?(?:\s+(?:separators?|marks?|groups?))?"
        r"(?:\s+(?P<group>blank|comma|point|apostrophe))?",
        lambda said: {"group": (said["group"] or "blank").lower()},
    ),
    (
        r"(?:the\s+)?unit\s+(?:stands\s+)?(?:(?P<front>in\s+front|before|first|left)|behind|after|at\s+the\s+end|"
        r"right|last)(?:\s+of\s+(?:the\s+)?number)?",
        lambda said: {"unit_place": "before" if said["front"] else "behind"},
    ),
    (
        r"(?:show\s+|with\s+|write\s+)?[\"']?(?P<text>[^\s\"',;]{1,16})[\"']?\s+(?:when|if|for|while|where)\s+"
        r"(?:(?:it|the\s+reading|a\s+reading|readings?)\s+(?:is\s+|are\s+)?)?(?:out\s+of|outside(?:\s+of)?|beyond)\s+"
        r"(?:its\s+|the\s+)?(?:range|limits?|bounds)",
        lambda said: {"invalid": SIGNS_SAID.get(said["text"].lower(), said["text"]), OUTSIDE: MARKED},
    ),
    (
        r"(?:show\s+|with\s+|write\s+)?[\"']?(?P<text>[^\s\"',;]{1,16})[\"']?\s+(?:when|if|for|after)\s+(?:(?:it\s+is|it's)\s+)?"
        r"(?:older\s+than|stale\s+(?:after|for)|no\s+(?:data|readings?)\s+for)\s+(?P<age>\d+(?:\.\d+)?\s*(?:s|sec(?:onds?)?|min(?:utes?)?))",
        lambda said: {"stale": SIGNS_SAID.get(said["text"].lower(), said["text"]), "stale_after": said["age"]},
    ),
    (
        r"(?:show\s+)?(?:as\s+|in\s+)?minutes\s+and\s+seconds|(?:as\s+|in\s+)m+:ss",
        lambda said: {"shows": "elapsed", "time": "m:ss"},
    ),
    (r"(?:show\s+)?(?:as\s+|in\s+)?hours\s+and\s+minutes", lambda said: {"shows": "elapsed", "time": "h:mm"}),
    (
        r"unit\s+(?P<text>\S{1,8})\s+(?:behind|after)(?:\s+it)?",
        lambda said: {"unit_text": said["text"], "unit_place": "behind"},
    ),
    (r"(?:hide|no|without)(?:\s+the)?\s+(?:minus|sign)(?:\s+sign)?", lambda said: {"sign": "never"}),
    (
        r"(?:show\s+|with\s+|write\s+)?[\"']?(?P<text>[^\s\"',;]{1,16})[\"']?\s+"
        r"(?:when|on|if|for|while|at|in\s+case\s+of)\s+(?:it\s+is\s+|an?\s+)?"
        rf"(?P<what>{'|'.join(_WHEN)})",
        lambda said: {_when(said["what"]): SIGNS_SAID.get(said["text"].lower(), said["text"])},
    ),
    (
        r"(?:(?:the\s+)?(?:last\s+)?digit\s+)?(?:at\s+most|no(?:t)?\s+more\s+than|up\s+to)\s+(?P<count>\d{1,3})\s+changes?\s+(?:an?|per|each)\s+"
        r"(?P<per>second|minute)",
        lambda said: {"restless": int(said["count"]) * (60 if said["per"].lower() == "second" else 1)},
    ),
    (
        r"(?:with\s+|an?\s+)?(?:si\s+|k\s+)?prefix(?:es)?|(?:in\s+)?kilo|k\s+for\s+kilo|by\s+range|auto[\s-]?range(?:\s+k(?:\s*(?:,|and|/|or)\s*M)?)?|(?:show\s+)?k\s+for\s+thousands",
        lambda said: {"prefix": BY_RANGE},
    ),
    (
        rf"(?P<what>{'|'.join(_WHEN)})\s+(?:shows?|reads?|says?|as|is)\s+[\"']?(?P<text>[^\s\"',;]{{1,16}})[\"']?",
        lambda said: {_when(said["what"]): SIGNS_SAID.get(said["text"].lower(), said["text"])},
    ),
    (
        r"truncated?(?:\s+(?:instead\s+of\s+rounding|it))?|cut(?:\s+off)?|round(?:ed)?\s+(?:down|towards?\s+zero)",
        lambda said: {"round": "down"},
    ),
    (
        r"(?:bankers?'?|half[\s-]even)(?:\s+rounding)?|round(?:ed)?\s+half\s+to\s+even",
        lambda said: {"round": "half even"},
    ),
    (
        r"(?:suffix|unit\s+(?:text|as)|append|followed\s+by)\s+[\"']?(?P<text>[^\s\"']{1,8})[\"']?",
        lambda said: {"unit_text": said["text"]},
    ),
    (r"floor(?:ed)?", lambda said: {"round": "floor"}),
    (r"round(?:ed)?(?:\s+(?:to\s+(?:the\s+)?nearest|half\s+up|normally))?", lambda said: {"round": "half away"}),
    (r"(?:with\s+)?(?:an?\s+|the\s+)?(?:%|per\s?cent)\s+sign", lambda said: {"unit_text": "%"}),
    (r"(?:with\s+)?(?:an?\s+)?(?P<degree>°|degrees?(?:\s+(?:sign|symbol))?)", lambda said: {"unit_text": "°"}),
    (
        r"(?:thousands?\s+)?(?:separated|grouped)\s+by\s+(?:an?\s+)?(?P<group>blank|comma|point|apostrophe)s?",
        lambda said: {"group": said["group"].lower()},
    ),
    (
        rf"(?:rounded|rounding)\s+(?P<way>{'|'.join(map(re.escape, MODES))})",
        lambda said: {"round": said["way"].lower()},
    ),
)
_LOOSELY_APART = re.compile(
    rf"{_APART.pattern}|(?<!\bshow)(?<!\bshows)(?<!\bshown)(?<!\bread)\s+(?=in\s)"
    r"|\s+(?=(?:shown?\s+in|(?:\d+|no|one|two|three)\s+(?:wide|decimals?|cells|places|dp))\b)"
    r"|(?<=decimal)\s+(?=\S+$)|(?<=decimals)\s+(?=[^\W\d%°]\S*$)|(?<=digits)\s+(?=[%°]$)",
    re.IGNORECASE,
)
"""Separation without a comma: ``1 decimal in °F``, ``2 decimals 6 wide``."""
_BY_NAME = re.compile(r"\b(?:width|decimals)\s+\d+(?=\s+(?:width|decimals)\s+\d+\b)", re.IGNORECASE)
"""``width 5 decimals 1``, each name before its number."""
RULES = tuple((re.compile(pattern, re.IGNORECASE), put) for pattern, put in _RULES)
_SHOWN_IN = re.compile(
    r"(?:(?:(?:show(?:n|s)?|read|display(?:ed)?|convert(?:ed)?)\s+(?:it\s+)?)?(?:in|as)\s+|convert(?:ed)?\s+(?:it\s+)?(?:to|into)\s+)"
    r"(?P<unit>\S+)",
    re.IGNORECASE,
)
_SHOWS = re.compile(r"^(?:show|display|write)\s+", re.IGNORECASE)
_WITH_UNIT = re.compile(r"(?:with\s+|show\s+)?(?:the\s+)?unit\s+(?P<text>\S+)", re.IGNORECASE)


_SPACED = re.compile(
    r"(?:with\s+)?(?:an?\s+)?(?:space|blank)\s+(?:before|in\s+front\s+of|between)\s+(?:(?:the\s+)?number\s+and\s+)?(?:the\s+|its\s+)?unit",
    re.IGNORECASE,
)
_ITS_UNIT = re.compile(
    r"(?:show|with|write|add|display)\s+(?:the\s+|its\s+|a\s+)?units?|(?:the\s+|its\s+)?unit\s+(?:after|behind)\s+it",
    re.IGNORECASE,
)
_WORD = r"[\"']?(?P<{0}>[^\s\"'<>,;]+(?: [^\s\"'<>,;]+){{0,2}}?)[\"']?"
_UP_TO = r"(?:<|below|under|up\s+to|until)\s*(?P<{0}>[-−+]?\d[\d.,]*(?:\s*[^\s\d,;]+)?)"
_RANGE = re.compile(rf"(?:show\s+)?{_WORD.format('word')}\s+{_UP_TO.format('end')}", re.IGNORECASE)
_LAST = re.compile(
    rf"(?:else|otherwise|show|and)?\s*{_WORD.format('word')}(?:\s+(?:above|over|else|otherwise).*)?", re.IGNORECASE
)
_MAY_BE_WORDS = re.compile(r"<|^\S+$")
"""Several words each with a limit; one alone is for all values."""
_BEFORE_WORD = re.compile(r"\s*[,;]\s+(?:and\s+)?|\s+(?=(?:else|otherwise)\s)")
_BETWEEN_WORDS = re.compile(r"(?P<number>\d(?:\s*(?:°[CFK]?|%))?)\s+(?P<next>[^\W\d][^\s,;]*)(?=\s)")
_NUMBER_SAID = r"[-−+]?\d+(?:[.,]\d+)?(?:\s*[^\s\d,;]+)??"
_WORD_ALONE = r"[^\s,/]+"
_LISTED = re.compile(
    rf"(?P<words>{_WORD_ALONE}[\s,/]+{_WORD_ALONE}[\s,/]+{_WORD_ALONE})\s+(?:at|by|limits?)\s+(?P<first>{_NUMBER_SAID})"
    rf"\s*(?:and|,|/|&)\s*(?P<second>{_NUMBER_SAID})",
    re.IGNORECASE,
)
_ABOVE = re.compile(
    rf"{_WORD.format('word')}\s+(?:above|over|from|>=?)\s*(?P<at>{_NUMBER_SAID})\s*,?\s+(?:(?:else|otherwise)\s+{_WORD.format('other')}|{_WORD.format('below')}\s+(?:below|under|otherwise|else)"
    r"(?:\s+(?:it|that))?)",
    re.IGNORECASE,
)
_WORDS_BEGIN = re.compile(r"(?:as\s+|show\s+)?(?:words?|text)\s*[:=]?\s+|show\s+", re.IGNORECASE)


def _in_words(said: str) -> str:
    """``low below 1 V, ok below 2 V, else high`` in the written form of words, also ``low ok high at 10 and 30`` and
    ``on above 20 else off``; empty where a range has no end."""
    bare = _WORDS_BEGIN.sub("", said, count=1)
    if (listed := _LISTED.fullmatch(bare)) and len(words := re.split(r"[\s,/]+", listed["words"])) == 3:
        return f"{words[0]} < {listed['first']}; {words[1]} < {listed['second']}; {words[2]}"
    if above := _ABOVE.fullmatch(bare):
        return f"{above['other'] or above['below']} < {above['at']}; {above['word']}"
    *ranges, last = [each for each in _BEFORE_WORD.split(_BETWEEN_WORDS.sub(_parted, bare)) if each] or [""]
    found = [_RANGE.fullmatch(each) for each in ranges]
    rest = _LAST.fullmatch(last)
    if not found or rest is None or re.search(r"[<\d]", rest["word"]):
        return ""
    ends = [f"{each['word']} < {each['end']}" for each in found if each]
    if len(ends) < len(found):
        return ""
    above = re.search(r"\s(?:above|over)\s*(?P<at>[-−+]?\d[\d.,]*)", last)
    below = re.search(r"[-−+]?\d[\d.,]*", ends[-1].rpartition("<")[2])
    if above and below and above["at"].strip(".,") != below[0].strip(".,"):
        gap = f"{ends[-1]}; fine < {above['at']}; {rest['word']}"
        raise RequestError(f'"{said}" leaves out what lies between; name it too, like {gap}.')
    return "; ".join([*ends, rest["word"]])


def _parted(found: re.Match[str]) -> str:
    """A number and the mark after it, unless its unit follows."""
    return found[0] if unit_said(found["next"]) is not None else f"{found['number']}, {found['next']}"


def _when(said: str) -> str:
    return next(name for word, name in _WHEN.items() if re.fullmatch(word, said, re.IGNORECASE))


def _side(found: re.Match[str]) -> str:
    return "centre" if found["side"].lower().startswith("cent") else found["side"].lower()


_IN_STEPS = re.compile(r"round(?:ed|ing)?\s+(?:to|in|by)\s+(?:(?:the\s+)?nearest\s+|steps?\s+of\s+)?\d", re.IGNORECASE)
"""Rounding in steps, which is a law and not a rule."""


def rules_said(typed: str, own: Unit) -> dict[str, Written] | None:
    """Values by the rule's name; ``own`` is the channel's unit, and what is shown in another one bears that one's name.

    None where not every piece of it is a rule. Raises RequestError for a value that a rule cannot have.
    """
    said = re.sub(r"^show\s+(?:only|just)\s+", "", typed.strip(), flags=re.IGNORECASE)
    if _IN_STEPS.match(said):
        return None
    if points := compass_said(said, own):
        return {"shows": "word", "words": points}
    if pictured := _pictured(said, own):
        return pictured
    said = _BY_NAME.sub(r"\g<0>,", said)
    if (words := _in_words(said)) and "=" not in said:
        return {"shows": "word", "words": words}
    found = _rule(said, own) or _all_of(_APART.split(said), own) or _all_of(_LOOSELY_APART.split(said), own)
    if not found:
        return None
    parameters = {each.name: each for each in (*FIELD, BEYOND)}
    return {name: as_written(parameters[name], f"{value}") for name, value in found.items()}


_PRINTED = re.compile(r"%(?P<flags>[-+ 0]*)(?P<width>\d{0,2})(?:\.(?P<places>\d))?(?:l?[fdiuFg])")
_BRACED = re.compile(r"\{(?:\w*):(?P<flags>[-+ <>^]*0?)(?P<width>\d{0,2})(?:\.(?P<places>\d))?[fdFg]?\}")
_BARE = re.compile(r"(?P<width>\d{1,2})\.(?P<places>\d)f")
_CALLED_AS = (
    re.compile(
        r"(?!constrain)\w*(?:str|fmt|format|print)\w*\(\s*[\w.]+\s*,\s*(?P<width>-?[1-9]\d?)\s*,\s*(?P<places>\d)\s*(?:,\s*\w+\s*)?\);?"
    ),
    re.compile(r"(?:[\w.]*\.)?(?:\w*[pP]rint(?:ln)?|String|round|format|str)\(\s*[\w.]+\s*,\s*(?P<places>\d)\s*\);?"),
    re.compile(r"(?:[\w.]*\.)?toFixed\(\s*(?P<places>\d)\s*\);?"),
)
"""How programs write a number: with a width and places, or with places alone."""
_FORMAT_FIRST = re.compile(
    r"(?P<format>%[-+ 0]*\d{0,2}(?:\.\d)?[fdiuFg]|\{\w*:[^{}]*\})(?P<unit>\s*(?:°\s?[CFK]?|%{1,2}|[^\W\d]\S{0,5}))"
)
_DRAWN = re.compile(
    r"(?P<sign>[-+]?)(?P<whole>[#0?xX9_]{1,12})(?:[.,](?P<part>[#0?xX9_]{1,6}))?(?:\s*(?P<unit>\D\S{0,7}))?"
)
"""A number as a drawing: ``###.#``, ``000``, ``##0.00 V``."""


def _pictured(said: str, own: Unit) -> dict[str, Written] | None:
    """The rules of a format, ``%5.1f``, or of a drawing, ``###.#``; None where it is neither."""
    if (found := _FORMAT_FIRST.fullmatch(said)) and (number := _pictured(found["format"], own)):
        unit = found["unit"].replace("%%", "%")
        # The format is that of the number alone; a field counts its unit too.
        wide: dict[str, Written] = {"width": int(number["width"]) + len(unit)} if "width" in number else {}
        return {**number, **wide, "unit_text": unit}
    if found := _BARE.fullmatch(said):
        return {"decimals": int(found["places"]), "width": int(found["width"])}
    if found := next((each for pattern in _CALLED_AS if (each := pattern.fullmatch(said))), None):
        width = int(found.groupdict().get("width") or 0)
        called: dict[str, Written] = {"decimals": int(found["places"])}
        called |= {"width": abs(width)} if width else {}
        return called | ({"align": "left"} if width < 0 else {})
    if found := _PRINTED.fullmatch(said) or _BRACED.fullmatch(said):
        rules: dict[str, Written] = {"decimals": int(found["places"] or 0)}
        rules |= {"width": int(found["width"])} if int(found["width"] or 0) else {}
        rules |= {"pad": "zero"} if "0" in found["flags"] else {}
        rules |= {"sign": "always"} if "+" in found["flags"] else {}
        return rules | ({"align": "left"} if "-" in found["flags"] or "<" in found["flags"] else {})
    found = _DRAWN.fullmatch(said)
    if found is None or not (found["part"] or len(found["whole"]) > 1) or not re.search(r"[#0?_]|(?i:x+\.x+)", said):
        return None
    unit, part = found["unit"] or "", found["part"] or ""
    if unit and unit_said(unit) is None:
        return None
    width = len(found["sign"]) + len(found["whole"]) + (1 + len(part) if part else 0) + len(unit)
    rules = {"decimals": len(part), "width": width}
    rules |= {"pad": "zero"} if found["whole"].startswith("00") else {}
    rules |= {"sign": "always"} if found["sign"] == "+" else {}
    return {**rules, **((_rule(unit, own) or {"unit_text": unit}) if unit else {})}


def _all_of(pieces: Sequence[str], own: Unit) -> dict[str, Written] | None:
    """The rules of all pieces; None where one is not a rule."""
    found: dict[str, Written] = {}
    for piece in filter(None, pieces):
        rule = _rule(piece, own)
        if rule is None:
            return None
        found |= rule
    return found


def _rule(piece: str, own: Unit) -> Mapping[str, Written] | None:
    for pattern, put in RULES:
        if said := pattern.fullmatch(piece):
            return put(said)
    if (said := _SHOWN_IN.fullmatch(piece)) and (unit := unit_said(said["unit"])) is not None:
        if not unit.same_dimension(own):
            raise RequestError(f"{own} cannot be converted to {unit}; a field shows what the channel reads.")
        return {"unit": "" if unit == own else str(unit), "unit_text": str(unit)}
    if (alone := unit_said(_SHOWS.sub("", piece))) is not None and alone.same_dimension(own) and alone.symbol != "1":
        return {"unit": "" if alone == own else str(alone), "unit_text": str(alone)}
    if _SPACED.fullmatch(piece):
        return {"unit_text": f" {own}"} if own.symbol != "1" else None
    if _ITS_UNIT.fullmatch(piece):
        return {"unit_text": str(own)} if own.symbol != "1" else None
    if said := _WITH_UNIT.fullmatch(piece):
        return {"unit_text": said["text"]}
    for parameter in sorted(FIELD, key=lambda each: -len(each.title)):
        named = any_case(rf"{re.escape(parameter.title)}(?:\s*[=:]\s*|\s+)(?P<value>\S.*)").fullmatch(piece)
        is_more = parameter.kind == "integer" and named is not None and re.search(r"\d[\s,]+\S", named["value"])
        if named is not None and parameter.name in ("prefix", "round") and named["value"] not in parameter.choices:
            continue  # prefix T= and round up are other rules
        is_no_range = parameter.name == "words" and named is not None and not _MAY_BE_WORDS.search(named["value"])
        if named is not None and parameter.kind != "flag" and not is_more and not is_no_range:
            return {parameter.name: named["value"]}
    return None
