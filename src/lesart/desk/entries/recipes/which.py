"""Which recipe a phrase means, if any."""

from __future__ import annotations

import re

from lesart.core.errors import QuantityError, RequestError, UnitError
from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Written
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.entries.recipes.kinds.slopes import GIVING, measured_by
from lesart.desk.entries.recipes.kinds.volts import RANGER
from lesart.desk.entries.recipes.phrases.aloud import ARTICLE, plainly
from lesart.desk.entries.recipes.phrases.called import CALLED
from lesart.desk.entries.recipes.phrases.phrase import NO_OTHERS, recipe_in
from lesart.desk.entries.recipes.questions import PLAIN, VOLT, bare
from lesart.desk.entries.recipes.recipe import Recipe, Said
from lesart.desk.entries.typed_values import meant

BITS_OF_CONVERTERS = (10, 12, 14, 16, 18, 20, 24, 32)
LOW_V = 3.3
"""Usual reference of converters with more than ten bits: the supply of the processors they are in."""
AMPERE = parse_unit("A")
EITHER_WAY = (AMPERE, *(parse_unit(each) for each in ("m/s²", "°/s", "T", "N")))
"""Quantities whose sensors give half of their supply at zero."""
VOLTAGES = ("zero", "to", "supply")
"""Answers that a converter has to cover."""
FULL_SHARE = "1023 ct"
SCALES = re.compile(
    r"(?:a |the )?scaled?\s+(?:[-+]?[\d.]+$|(?:to|from|by|between|into)\b|\S*\d\s*(?:to|[-–…]|\.\.)\s*\d)"
)


def is_signal(typed: str) -> bool:
    """True where it begins like a recipe. Without an article a law of that name takes precedence."""
    typed = plainly(typed, SIGNALS)
    has_article = ARTICLE.sub("", typed.strip()) != typed.strip()
    found = recipe_in(typed, SIGNALS, CALLED if has_article else NO_OTHERS)
    words = typed.strip().lower()
    if SCALES.match(words):
        return False  # to scale is arithmetic, not a weighing scale
    if re.split("[=<]", words)[0].strip() in SIGNALS and re.search("[=<]", words):
        return False  # knob = column: a name
    laws = [name for name in LAWS if words == name.lower() or words.startswith(f"{name.lower()} ")]
    return found is not None and len(found[0]) > max(map(len, laws), default=0)


def with_article(typed: str) -> str:
    """The phrase with an article where only a signal can be meant: ``load cell 5 kg`` as ``a load cell 5 kg``."""
    typed = plainly(typed, SIGNALS)
    is_whole = ARTICLE.sub("", typed.strip()) != typed.strip() or recipe_in(typed, SIGNALS) is not None
    return typed if is_whole else f"a {typed.strip()}"


def _with_one(typed: str) -> str:
    """The phrase with an article, where it has none and does not begin with a number."""
    bare = typed.strip()
    return typed if ARTICLE.sub("", bare) != bare or bare[:1].isdigit() else f"a {bare}"


def names_no_law(typed: str) -> bool:
    """True for a possible signal without its article, in a step where it cannot be a column."""
    words = typed.strip().lower()
    return not any(words == name.lower() or words.startswith(f"{name.lower()} ") for name in LAWS)


def nearly_a_signal(typed: str) -> str:
    """``did you mean a thermistor half?`` for a misspelt name with an article; else empty."""
    bare = ARTICLE.sub("", typed.strip())
    if bare == typed.strip():
        return ""
    return meant(bare, SIGNALS) or f"it may be {', '.join(SIGNALS)}."


def usual_of(recipe: Recipe, said: Said, greatest_ct: float = 0.0) -> dict[str, Written]:
    """The default answers.

    A range with only its high end stated begins at 0; a sensor that gives volts either way rests at half of a stated
    reference; and no converter has fewer bits than its ``greatest_ct`` needs.
    """
    usual = {ask.word: ask.usual for ask in recipe.asks}
    bits = next((each for each in BITS_OF_CONVERTERS if greatest_ct < 2**each), BITS_OF_CONVERTERS[-1])
    if isinstance(told := usual.get("bits"), int) and bits > told and "bits" not in said:
        usual["bits"] = bits
        if usual.get("reference") == "5 V" and not any(_is_beyond(str(said.get(word, "")), LOW_V) for word in VOLTAGES):
            usual["reference"] = f"{LOW_V:g} V"
    if usual.get("to") == FULL_SHARE and greatest_ct >= 2 ** BITS_OF_CONVERTERS[0]:
        usual["to"] = f"{2**bits - 1} ct"
    if recipe is GIVING:
        usual["zero"] = _usual_zero(said, str(usual["zero"]))
    # No power of the volts is 0.
    if "low" in usual and "high" in said and "low" not in said and recipe is not RANGER:
        usual["low"] = beside_unit("0", parse_quantity(bare(said["high"]), PLAIN).unit.symbol)
    return usual


def _usual_zero(said: Said, usual: str) -> str:
    """Half of the reference for what goes either way; 0 V for what does not, such as light."""
    measured = measured_by(bare(said["slope"])) if "slope" in said else AMPERE
    if not any(measured.same_dimension(each) for each in EITHER_WAY):
        return "0 V"
    return f"{parse_quantity(bare(said['reference']), VOLT).to(VOLT) / 2:.6g} V" if "reference" in said else usual


def _is_beyond(written: str, volts: float) -> bool:
    """True for a voltage above that."""
    try:
        told = parse_quantity(bare(written), PLAIN)
        return told.to(VOLT) > volts
    except (QuantityError, UnitError):
        return False


def recipe_of(typed: str) -> tuple[Recipe, str]:
    """The recipe of a phrase, and the stated values. Raises RequestError where there is none."""
    found = recipe_in(plainly(_with_one(typed), SIGNALS), SIGNALS, CALLED)
    if found is None:
        raise RequestError(f'"{typed.strip()}" is not one of {", ".join(SIGNALS)}.')
    name, _, known = found[0].partition(", ")
    return SIGNALS[name], f"{found[1]}, {known}" if known else found[1]
