"""The phrase for a recipe: its name and known values, in any order, with the small words of a sentence.

``a thermistor half on a 10-bit converter at 5 V, beta = 3435 K``
"""

from __future__ import annotations

import math
import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import zip_longest
from types import MappingProxyType
from typing import TypeVar

from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.notes import Written
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.entries.recipes.phrases.aloud import ARTICLE, BETA, known_plainly
from lesart.desk.entries.recipes.recipe import Ask, Recipe
from lesart.desk.entries.said.patterns import begins_with
from lesart.desk.entries.typed_values import as_written

Kind = TypeVar("Kind")
SMALL = re.compile(
    r"\s+(?:on|of|over|at|with|and|through|behind|via|using|for|into|across)\s+|\s+an?\s+|(?:(?<!\d),|,(?!\d))\s*(?:and\s+)?"
)
"""Words between values; a comma between two digits is a decimal sign."""
OPENING = re.compile(r"^(?:on|of|over|at|with|and|through|behind|via|using|for|into|across|an?|in)(?:\s+|$)")
IDLE = re.compile(
    r"\b(?:converter|ADC|adc|divider|amplifier|air|each|thermistor|resistor|cell|sensor|electrode|internal|external)s?\b(?!\s*=)(?:\s+of)?"
)
"""Words without meaning here."""
MEASURED = re.compile(
    r"(?<![\w.])(\d+(?:[.,]\d+)?\s*[^\s\d,;=]{1,6})\s+(?:of\s+)?(?:water|humidity|pressure|temperature|depth|level|weight|load)"
    r"\b(?!\s*=)"
)
"""What a value is of, after it: ``6 m water``."""
MARKS = re.compile(
    r"\b(\d+)\s+(?:magnet|mark|slot|hole|tooth|teeth|spoke|blade|pulse)s?(?:\s+(?:per|a|each)\s+(?:turn|rev(?:olution)?|rotation|lit(?:re|er)|L))?\b"
)
"""Sources of pulses."""
_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
_UNIT = r"(?!to\b)[^\W\d]*[%°Ω]?[^\W\d]*(?:[·/][^\W\d]+(?:[23](?!\d))?)?[²³]?"
_ENDS = re.compile(
    # Not the tolerance of a number: ``0.5 V ± 20 mV to 4.5 V``.
    r"(?<!±)(?<!±\s)(?:\bfrom\s+)?(?<![\d.,])"
    rf"(?P<begin>{_NUMBER})\s*(?P<unit>{_UNIT})(?:\s+to\s+|\s*(?:[–…]|\.\.+)\s*|(?<=\d)-(?=\d))"
    rf"(?P<end>{_NUMBER})\s*(?P<last>(?!on\b|at\b){_UNIT})"
)
"""``from 2800 to 1200``, ``0 to 10 bar``."""
PLAIN_NUMBER = re.compile(r"[-−+]?\d+(?:[.,]\d+)?$")
PREFIXED = re.compile(r"\d+(?:[.,]\d+)?\s*[kMRr]\d*(?:$|\s*±)")
NO_OTHERS: Mapping[str, str] = MappingProxyType({})
IN_WORDS = ("choice", "unit")
"""Values in words."""


def recipe_in(typed: str, recipes: Mapping[str, Kind], also: Mapping[str, str] = NO_OTHERS) -> tuple[str, str] | None:
    """The recipe whose name a phrase begins with, the longest such, and what comes after it; None without one.

    ``also`` are other names, and the recipe that each stands for.
    """
    bare = ARTICLE.sub("", typed.strip())
    for words in range(5):
        # A 10k thermistor, a 5 kg load cell, a 3.3 V 12 bit ADC: its values first.
        value, rest = _after(bare, words)
        fit = [name for name in (*recipes, *also) if begins_with(name).match(rest)]
        if fit and (not value or value[0].isdigit()):
            name = max(fit, key=len)
            return also.get(name, name), f"{value} {rest[len(name) :].lstrip(' :;')}".strip()
    return None


def _after(text: str, words: int) -> tuple[str, str]:
    """The words of a name, and the rest."""
    split = text.split(maxsplit=words)
    return (" ".join(split[:words]), split[words]) if len(split) > words else ("", "")


def said_in(recipe: Recipe, rest: str) -> dict[str, Written]:
    """The stated values, by the word of their question. Raises RequestError for a value that no question accepts."""
    words = {ask.word for ask in recipe.asks}
    rest = re.sub(r"^in\s+(?:%|per\s?cent)(?=$|[\s,])", "", rest.strip()) if "low" in words else rest
    rest = _ends_named(known_plainly(rest, words), words)
    # Its word first: the fixed resistor of a half is a "resistance" too, by the name that it has as a part.
    by_word = {ask.parameter.name.lower(): ask for ask in recipe.asks} | {ask.word.lower(): ask for ask in recipe.asks}
    found: dict[str, Written] = {}
    named, alone = _named_and_alone(recipe, _in_order(list(_pieces(rest)), by_word), by_word)
    # Named ones first: the resistance of a Pt100 is known, so 1 kΩ beside it is the fixed one.
    for ask, value in named:
        _say(found, ask, value, as_written(ask.parameter, value))
    for piece in alone:
        ask = _taking(recipe, piece, found)
        _say(found, ask, piece, as_written(ask.parameter, _bare(piece)))
    return found


def _say(found: dict[str, Written], ask: Ask, said: str, written: Written) -> None:
    if ask.word in found:
        raise RequestError(f"{ask.parameter.title} is said twice: {found[ask.word]} and {said}.")
    found[ask.word] = written


def _named_and_alone(
    recipe: Recipe, pieces: Iterator[str], by_word: Mapping[str, Ask]
) -> tuple[list[tuple[Ask, str]], list[str]]:
    """Values named by a word, and those without one."""
    named, alone, word = [], [], ""
    for each in pieces:
        piece, word = f"{word}={each}" if word else each, ""
        if piece.lower() in by_word:  # beta 3950 K
            word = piece
            continue
        name, sign, value = _assigned(piece, by_word)
        if sign and not name:
            raise RequestError(f'"{piece}" says nothing of {recipe.called}; {_takes(recipe)}.')
        if sign and name.lower() not in by_word:
            raise RequestError(f'{_first_up(recipe.called)} takes no "{name}"; {_takes(recipe)}.')
        if sign:
            named.append((by_word[name.lower()], value))
        else:
            alone.append(piece)
    if word:
        raise RequestError(f'"{word}" has no value; {_takes(recipe)}.')
    return named, alone


def _ends_named(rest: str, words: Collection[str]) -> str:
    """``0 to 10 bar`` as ``low = 0 bar, high = 10 bar``, with the recipe's words for its two ends.

    With two pairs of ends, volts go to one pair.
    """
    pairs = [pair for pair in (("low", "high"), ("from", "to")) if set(pair) <= set(words)]
    return _ENDS.sub(lambda ends: _named(ends, pairs), rest) if pairs else rest


def _named(ends: re.Match[str], pairs: Sequence[tuple[str, str]]) -> str:
    unit = ends["unit"] or ends["last"] or ""
    low, high = pairs[-1] if unit in GIVEN_IN else pairs[0]
    return f", {low} = {ends['begin']} {unit}, {high} = {ends['end']} {ends['last'] or ''}"


GIVEN_IN = ("V", "mV", "Ω", "kΩ", "ohm", "ohms")
"""Units of what a sensor gives, and not of what it measures."""


def _in_order(pieces: Sequence[str], by_word: Mapping[str, Ask]) -> Iterator[str]:
    """``10k beta`` and ``3950`` as ``10k``, ``beta`` and ``3950``, where the word belongs to what follows it; a plain
    number after it takes precedence over ohms before it, or over ``1 mV/V`` before a gain."""
    for piece, behind in zip_longest(pieces, pieces[1:], fillvalue=""):
        value, _, word = piece.rpartition(" ")
        ask = by_word.get(word.lower())
        follows = value and "±" not in value and ask is not None and behind[:1].isdigit() and _reads(ask, behind)
        is_other = PREFIXED.match(value) or "/" in value
        if follows and (not _reads(ask, value) or (PLAIN_NUMBER.match(behind) and is_other)):
            yield from (value, word)
        else:
            yield piece


def _reads(ask: Ask | None, value: str) -> bool:
    if ask is None:
        return False
    try:
        ask.parameter.read(as_written(ask.parameter, _bare(value)))
    except (ValueError, RequestError):
        return False
    return True


def _assigned(piece: str, by_word: Mapping[str, Ask]) -> tuple[str, str, str]:
    """Name, sign and value; ``10k fixed`` and ``5 V reference`` mean the same as with a sign."""
    value, _, word = piece.rpartition(" ")
    if value and "=" not in piece and word.lower() in by_word:
        return word, "=", value.strip()
    name, sign, value = piece.partition("=")
    return name.strip(), sign, value.strip()


def _pieces(rest: str) -> Iterator[str]:
    rest = BETA.sub("beta=", rest)
    text = MARKS.sub(r"marks=\1", re.sub(r"(\d+)\s*-?\s*bits?\b", r"bits=\1", rest))
    text = re.sub(r"\s*=\s*", "=", MEASURED.sub(r"\1", IDLE.sub(" ", text)))
    for part in SMALL.split(f" {text.strip()} "):
        yield from _values(OPENING.sub("", (part or "").strip()))


def _values(part: str) -> Iterator[str]:
    """``10 kΩ 4k7 3435 K`` is three values: a number after a letter begins a new one, except for a tolerance."""
    piece: list[str] = []
    for word in part.split():
        is_new = (word[:1].isdigit() and piece and piece[-1] != "±" and not _goes_on(piece[-1], word)) or (
            "=" in word and piece
        )
        if is_new:
            yield " ".join(piece)
            piece = []
        piece.append(word)
    if "".join(piece).strip(" ,."):
        yield " ".join(piece)


def _goes_on(before: str, word: str) -> bool:
    """True for the rest of a number: ``16 777 216``, or a value behind its sign."""
    return re.fullmatch(r"[.,+-]+", before) is not None or bool(
        re.fullmatch(r"[\d.,+-]+", before) and re.match(r"\d{3}(?![\d.])", word)
    )


def _bare(piece: str) -> str:
    return piece.strip(" ,")


def _taking(recipe: Recipe, piece: str, found: Mapping[str, Written]) -> Ask:
    """The first open question that accepts a value with its unit as stated; else with the question's own."""
    numbers = re.search(r"\d", piece)
    left = [ask for ask in recipe.asks if ask.word not in found and (numbers or ask.parameter.kind in IN_WORDS)]
    if PLAIN_NUMBER.match(_bare(piece)):  # 3950 of a thermistor is no voltage, though its reference could be any
        number = float(_bare(piece).replace(",", "."))
        left.sort(key=lambda ask: (round(_far_from_usual(ask, number), 6), bool(ask.parameter.unit)))
    left.sort(key=lambda ask: ask.word == "low")  # one end alone is the high one
    if PREFIXED.match(piece):  # 4k7 is said of resistors, or of what may be in any unit
        left = [ask for ask in left if ask.parameter.unit == "Ω" or ask.parameter.kind == "any quantity"]
    left = [ask for ask in left if ask.sign in piece]
    if "/" in piece:  # 2 mV/V of a load cell is not a load
        left.sort(key=lambda ask: "/" not in f"{ask.sign}{ask.parameter.unit}")
    for ask in left:
        if ask.parameter.kind == "integer" or PLAIN_NUMBER.match(_bare(piece)):
            continue  # a number of bits says so; and a number alone is what is nearest
        try:
            ask.parameter.read(_bare(piece))
        except ValueError:
            continue
        return ask
    for ask in left:
        try:
            as_written(ask.parameter, _bare(piece))
        except RequestError:
            continue
        return ask
    raise RequestError(f'"{piece}" says nothing of {recipe.called}; {_takes(recipe)}.')


def _far_from_usual(ask: Ask, number: float) -> float:
    """Distance from the usual value in powers of ten; infinite without one."""
    if ask.parameter.kind in IN_WORDS:
        return math.inf
    try:
        unit = parse_unit(ask.parameter.unit or "1")
        usual = parse_quantity(str(ask.usual), unit)
        wanted = abs(usual.to(unit) if usual.unit.same_dimension(unit) else float(usual.value))
    except (QuantityError, UnitError):
        return math.inf
    return abs(math.log10(abs(number) / wanted)) if wanted and number else math.inf


def _first_up(text: str) -> str:
    return text[:1].upper() + text[1:]


def _takes(recipe: Recipe) -> str:
    asked = ", ".join(f"{ask.word} = {ask.parameter.default}" for ask in recipe.asks)
    return f"it takes {asked}"
