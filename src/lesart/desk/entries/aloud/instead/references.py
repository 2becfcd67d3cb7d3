"""Lines in 4 True that are not references: where they belong, and what a reference would be."""

from __future__ import annotations

from lesart.core.quantity import beside_unit
from lesart.core.units import Unit
from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

_KIND = "which line or curve goes through the references is kind, a value of the correction; tab goes to it"
ASKS: Asks = (
    (
        r"(?:in\s+)?(?:boiling|hot)\s+water|.*\bboiling\b",
        "boiling water depends on the air pressure: 100 °C at 1013 hPa, about 1 °C less per 300 m of height; type its "
        "temperature",
    ),
    (
        r"linear|quadratic|cubic|straight|line\b|curve|poly|spline|fit\b|least\s+squares|regression|offset\s+only|"
        r"(?:1|one|single|2|two|3|three|multi)[\s-]?points?(?:\s+calibration)?$",
        _KIND,
    ),
    (
        r"±|\+\s?/?-|accuracy|uncertainty|tolerance|error\b|\d[\d.,]*\s*%\s+(?:of|accuracy|error)",
        "type how well a reference is known after it, like {example} ± {off}",
    ),
    (
        r"(?:temperature|thermal|temp)\s+(?:drift|coefficient|compensation|dependence)",
        "a correction by another reading is a law: + in 3 Law takes trimmed compensation",
    ),
    (
        r"drift|age(?:s|ing)?\b|.*\bper\s+(?:day|week|month|year)",
        "drift is shown between calibrations; l turns to them",
    ),
    (
        r"calibrat\w*\s+(?:it\s+)?(?:at|with|to|between)\s+\S+.*\b(?:and|to)\s+\S*\d",
        "type each with what is read there, like {example} reads {other}",
    ),
    (
        r"(?:last\s+)?(?:re-?)?calibrat\w*\s+(?:on|at|yesterday|today|last|\d)|.*\byesterday\b|date\b",
        "each reference has its day as a value, date; tab goes to it",
    ),
    (
        r"valid|due\b|expires?|re-?calibrate|check\s+(?:again|every)|every\s",
        "for how long references hold: valid, a value of the correction; tab goes to it",
    ),
    (
        r"(?:no|without)\s+correction|(?:delete|remove|ignore|skip|drop|clear|forget|undo|reset)\b",
        "delete removes the selected one, used = no leaves it out, and ctrl+z undoes it",
    ),
    (
        r"(?:full\s+scale|maximum|half|mid)\b",
        "a reference is a value that is known by another way; type it, like {example}",
    ),
    (
        r"(?:the\s+)?(?:thermometer|scales?|meter|sensor|display|instrument|gauge|it)\s+(?:says?|reads?|shows?)",
        "which of them is right? my reference meter says {example}, or {example} reads {other}",
    ),
    (
        r"(?:it\s+)?(?:reads?|shows?|says?|indicates?|displays?|measures?)\s+\S+(?:\s\S+)?$",
        "what is read is known already; type what is true, like {example}, or {example} reads {other}",
    ),
    (
        r"(?:from\s+)?(?:.*\bat|.*\bfrom|.*\bbetween)?\s*\d{1,2}:\d{2}",
        "a reference is taken at the cursor, of the last 5 s before it: < > and , . move it there; then type what was "
        "true, like {example}",
    ),
    (
        r"(?:slope|gain|factor|offset)\b.*\d.*\d",
        "slope and offset are a law: + in 3 Law takes slope 1.02 offset -0.3; a correction comes from references, "
        "like {example} reads {other}",
    ),
    (r"(?:mean|average)\b", "a reference already takes the mean of the last 5 s; type what was true, like {example}"),
    (
        r"(?:class|oiml)\s+\w\d?\b",
        "type the weight, and how well it is known, by its class, after it, like {example} ± {off}",
    ),
    (r"(?:auto\w*|calibrat\w*|start|begin|help|how)\b", "type what it should read now, like {example}"),
)


def done_otherwise(typed: str, unit: Unit) -> str:
    """What to do instead; empty where it is not recognised."""
    says = first_of(ASKS, bare(typed))
    example, other, off = (beside_unit(each, unit.symbol) for each in ("20", "20.4", "0.1"))
    return says.format(example=example, other=other, off=off)
