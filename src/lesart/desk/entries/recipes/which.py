"""Which recipe a phrase means, and whether it means one at all."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Written
from lesart.core.quantity import beside_unit, parse_quantity
from lesart.desk.entries.recipes.aloud import ARTICLE, plainly
from lesart.desk.entries.recipes.called import CALLED
from lesart.desk.entries.recipes.phrase import NO_OTHERS, recipe_in
from lesart.desk.entries.recipes.questions import PLAIN, bare
from lesart.desk.entries.recipes.recipe import Recipe, Said
from lesart.desk.entries.recipes.signals import SIGNALS
from lesart.desk.entries.typed_values import meant

SCALES = re.compile(r"(?:a |the )?scaled?\s+(?:(?:to|from|by|between|into)\b|\S*\d\s*(?:to|[-–…]|\.\.)\s*\d)")


def is_signal(typed: str) -> bool:
    """Does it begin as one of the recipes does? Without an article a law of that name goes first."""
    typed = plainly(typed, SIGNALS)
    has_article = ARTICLE.sub("", typed.strip()) != typed.strip()
    found = recipe_in(typed, SIGNALS, CALLED if has_article else NO_OTHERS)
    words = typed.strip().lower()
    if SCALES.match(words):
        return False  # to scale is to reckon, and no scale for letters
    if re.split("[=<]", words)[0].strip() in SIGNALS and re.search("[=<]", words):
        return False  # knob = column: a name
    laws = [name for name in LAWS if words == name.lower() or words.startswith(f"{name.lower()} ")]
    return found is not None and len(found[0]) > max(map(len, laws), default=0)


def with_article(typed: str) -> str:
    """Where nothing but a signal can be meant: ``load cell 5 kg`` as ``a load cell 5 kg``."""
    typed = plainly(typed, SIGNALS)
    is_whole = ARTICLE.sub("", typed.strip()) != typed.strip() or recipe_in(typed, SIGNALS) is not None
    return typed if is_whole else f"a {typed.strip()}"


def _with_one(typed: str) -> str:
    """With an article, where it has none and begins with no number."""
    bare = typed.strip()
    return typed if ARTICLE.sub("", bare) != bare or bare[:1].isdigit() else f"a {bare}"


def names_no_law(typed: str) -> bool:
    """May it be a signal without its article, in a step where columns have no names?"""
    words = typed.strip().lower()
    return not any(words == name.lower() or words.startswith(f"{name.lower()} ") for name in LAWS)


def nearly_a_signal(typed: str) -> str:
    """``did you mean a thermistor half?`` for what begins with an article as no name or law does; else nothing."""
    bare = ARTICLE.sub("", typed.strip())
    if bare == typed.strip():
        return ""
    return meant(bare, SIGNALS) or f"it may be {', '.join(SIGNALS)}."


def usual_of(recipe: Recipe, said: Said) -> dict[str, Written]:
    """What is meant where nothing is said. A range of which the high end alone is said begins at nothing."""
    usual = {ask.word: ask.usual for ask in recipe.asks}
    if "low" in usual and "high" in said and "low" not in said:
        usual["low"] = beside_unit("0", parse_quantity(bare(said["high"]), PLAIN).unit.symbol)
    return usual


def recipe_of(typed: str) -> tuple[Recipe, str]:
    """And what is said of it. Raises RequestError where it is none."""
    found = recipe_in(plainly(_with_one(typed), SIGNALS), SIGNALS, CALLED)
    if found is None:
        raise RequestError(f'"{typed.strip()}" is none of {", ".join(SIGNALS)}.')
    name, _, known = found[0].partition(", ")
    return SIGNALS[name], f"{found[1]}, {known}" if known else found[1]
