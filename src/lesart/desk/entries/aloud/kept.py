"""Range filters, deadbands, and smoothing as programs write it, as people type them at + in 5 Calm: ``keep 0-50``,
``ignore if > 50``, ``only if it changes by 0.2``, ``y += 0.1 * (x - y)``."""

from __future__ import annotations

import ast
import re

from lesart.core.syntax import expression_of
from lesart.desk.entries.aloud.reckoned.pasted import of_program

_NO_UNIT = r"(?!(?:and|to|then|ignore|skip|drop|reject|discard|throw)\b)"
_NUMBER = rf"[-−+]?\d+(?:[.,]\d+)?(?:\s*{_NO_UNIT}[^\W\d][^\s\d,;()]*|\s*[%°Ω][^\s\d,;()]*)?"
_TO = r"\s*(?:\.\.+|…|–|\bto\b|\band\b|(?<=[\d\w%])-(?=[-\d])|,)\s*"
_BETWEEN = re.compile(
    r"(?:(?:keep|allow|accept|use|take)(?:\s+(?:only|values?|readings?|what\s+is))*|only|valid(?:\s+(?:range|values?))?(?:\s+is)?|"
    r"(?:reject|ignore|drop|discard|throw\s+(?:out|away))\s+(?:(?:everything|anything|all|values?|readings?|what\s+is)\s+)*"
    r"(?:outside(?:\s+of)?|not\s+(?:in|within|between)|out\s+of)|(?=(?:between|within)\b))"
    rf"(?:(?:^|\s+)(?:the\s+)?(?:range|between|from|within|of|in))*\s*(?P<low>{_NUMBER})(?:{_TO}|\s+(?=[-−+]?\d))(?P<high>{_NUMBER})",
    re.IGNORECASE,
)
_DROPS = r"(?:ignore|skip|drop|reject|discard|throw\s+(?:out|away))"
_SIDE = r"(?P<side{0}>[<>]=?|above|over|below|under|(?:is\s+)?(?:greater|more|less|higher|lower)\s+than)"
_IF = re.compile(
    rf"(?:{_DROPS}(?:\s+it)?\s+(?:if|when|while)\s+(?:it\s+is\s+|x\s*|it\s+|the\s+(?:value|reading)\s+(?:is\s+)?)?"
    rf"{_SIDE.format(1)}\s*(?P<at1>{_NUMBER})"
    rf"|if\s*\(?\s*(?:\w+\s*)?{_SIDE.format(2)}\s*(?P<at2>{_NUMBER})\s*\)?\s*(?:then\s+)?{_DROPS}(?:\s+it)?)",
    re.IGNORECASE,
)
_CHANGES = re.compile(
    r"(?:(?:only|report|send|show|update|log)\s+)*(?:if|when|on)\s+(?:it\s+)?(?:changed|changes|change|moves?d?|delta)"
    rf"(?:\s+(?:is|by|of|more\s+than|at\s+least|above|over))*\s*(?:[>≥]=?)?\s*(?P<by1>{_NUMBER})"
    rf"|(?:(?:minimum|min\.?|smallest|least)\s+)?change(?:\s+threshold)?(?:\s+of)?\s*[=:]?\s*(?P<by2>{_NUMBER})"
    rf"|(?:threshold|delta)\s*[=:]?\s*(?P<by3>{_NUMBER})",
    re.IGNORECASE,
)
_HELD = re.compile(
    r"(?:hold|keep|show|repeat)(?:\s+(?:the\s+)?(?:last|old|previous)(?:\s+(?:good\s+)?(?:value|reading|one))?)?"
    r"(?:\s+for)?(?:\s+(?P<time>\d+(?:[.,]\d+)?\s*\w+))?\s+(?:when|if|while)\s+(?:it\s+is\s+)?"
    r"(?:missing|lost|gone|none|bad|stale|invalid|(?:there\s+is\s+)?nothing(?:\s+comes)?|no\s+(?:data|reading|value)s?)",
    re.IGNORECASE,
)
_NAMED = re.compile(r"trimmed mean(?:\s+\d+(?:\s*,?\s*\d+)?)?", re.IGNORECASE)
"""A filter by its name and values."""
_POINTED = re.compile(
    r"(?P<n>\d+)[\s-]+(?:point|sample|tap|reading)s?[\s-]+(?:(?:moving|rolling|running|sliding)\s+)?"
    r"(?:(?P<mean>average|avg|mean|boxcar|fir)|median)(?:\s+filter)?",
    re.IGNORECASE,
)
_SHARE_NEW = re.compile(
    r"(?P<new>\d+)\s*/\s*(?P<of>\d+)\s+(?:of\s+)?(?:the\s+)?new(?:\s+(?:value|reading|one|sample))?", re.IGNORECASE
)
_OF_WEIGHT = re.compile(
    r"(?:(?:ema|(?:exponential(?:ly)?|simple)\s+(?:smooth(?:ing|ed)?|average|filter))\s+(?:with\s+)?)?(?:alpha|weight|factor)\s*[=:]?\s*(?P<weight>0?\.\d+)",
    re.IGNORECASE,
)
_CUT_OFF = re.compile(
    r"(?:fc|f_c|f0|cut-?off(?:\s+frequency)?)\s*(?:[=:]|of\b|at\b|\s)\s*(?P<at>\d\S*\s*\S+)", re.IGNORECASE
)
_NEARLY_ONE = 1e-6
_READINGS = r"(?:\s*(?:readings?|samples?|values?|measurements?|points?))?"
_EXTREMES = (
    r"(?:the\s+)?(?:(?P<d{0}>\d+)\s+)?"
    r"(?:lowest|highest|min(?:imum)?|max(?:imum)?|smallest|largest|biggest|least|greatest)"
)
_BOTH = rf"{_EXTREMES.format(1)}\s*(?:and|&|/|,)\s*{_EXTREMES.format(2)}"
_TRIMMED = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        rf"(?:an?\s+)?trim(?:med)?[\s-]+(?:mean|average)(?:\s+(?:of|over))?(?:\s+(?P<n>\d+){_READINGS})?"
        r"(?:[\s,]+(?:(?:and|drop(?:ping)?|cut(?:ting)?|without|trim)\s+)*(?P<d>\d+)(?:\s+(?:dropped|cut))?(?:\s+(?:at|on|from|of)\s+"
        r"(?:each|either|both)\s+(?:end|side)s?)?)?",
        rf"(?:drop|ignore|discard|throw\s+(?:out|away)|remove|without|cut)\s+{_BOTH}(?:\s+(?:of|from|in|out\s+of))?(?:\s+(?:the\s+)?"
        rf"(?:last\s+)?(?P<n>\d+){_READINGS})?(?:[\s,]+(?:and\s+|then\s+)*(?:average|mean|take\s+the\s+mean)(?:\s+(?:of\s+)?the\s+(?:rest|others))?)?",
        rf"(?:average|mean)(?:\s+(?:of|over))?(?:\s+(?:the\s+)?(?:last\s+)?(?P<n>\d+){_READINGS})?[\s,]+(?:without|except|minus|excluding|"
        rf"(?:and\s+)?(?:drop|ignor|discard)\w*)\s+{_BOTH}",
        rf"(?:sort|take|read)\s+(?P<n>\d+){_READINGS}[\s,]+(?:and\s+|then\s+|sort\s+them[\s,]+)*(?:drop|ignore|discard|remove|throw\s+"
        rf"(?:out|away))\s+(?:{_BOTH}|(?P<d>\d+)\s+(?:at|on|from)\s+(?:each|either|both)\s+(?:end|side)s?)(?:[\s,]+(?:and\s+|then\s+)*"
        r"(?:average|mean)(?:\s+(?:of\s+)?the\s+(?:rest|others))?)?",
    )
)
"""A mean without the extremes: number of samples, and number dropped at each end."""


def kept_plainly(said: str) -> str:
    """The filter that such a line means, by its own name; empty where it is none of these."""
    if found := _BETWEEN.fullmatch(said):
        return f"reject range lowest = {found['low']}, highest = {found['high']}"
    if found := _IF.fullmatch(said):
        side, at = (found["side1"] or found["side2"]).lower(), found["at1"] or found["at2"]
        is_low = side.startswith(("<", "below", "under")) or "less" in side or "lower" in side
        return f"reject range {'lowest' if is_low else 'highest'} = {at}"
    if found := _CHANGES.fullmatch(said):
        return f"deadband {found['by1'] or found['by2'] or found['by3']}"
    if found := _HELD.fullmatch(said):
        return f"hold {found['time'] or ''}".strip()
    for pattern in _TRIMMED if _NAMED.fullmatch(said) is None else ():
        if found := pattern.fullmatch(said):
            return _trimmed(found.groupdict())
    if found := _POINTED.fullmatch(said):
        return f"{'mean' if found['mean'] else 'median'} {found['n']}"
    if (found := _SHARE_NEW.fullmatch(said)) and 0 < int(found["new"]) < int(found["of"]):
        return f"exponential {int(found['new']) / int(found['of']):.9g}"
    if found := _OF_WEIGHT.fullmatch(said):
        return f"exponential {found['weight']}"
    if found := _CUT_OFF.fullmatch(said):
        return f"low-pass {found['at']}"
    weight = weight_pasted(said)
    return f"exponential {weight:.9g}" if weight else ""


def _trimmed(said: dict[str, str | None]) -> str:
    """A trimmed mean.

    Without a number, one sample at each end is dropped where lowest and highest are named, else the default.
    """
    dropped = said.get("d") or said.get("d1") or said.get("d2") or ("1" if "d1" in said else "")
    samples = f", samples = {said['n']}" if said.get("n") else ""
    return f"trimmed mean{samples}{f', dropped = {dropped}' if dropped else ''}".replace("mean,", "mean", 1)


def weight_pasted(said: str) -> float:
    """Weight of the new reading in a line of code such as ``y += 0.1 * (x - y)``; 0 for none."""
    line = of_program(said)
    found = re.fullmatch(r"(?P<name>[A-Za-z_]\w*)\s*(?P<sign>[-+]?)=\s*(?P<rest>[^=].*)", line.strip().rstrip(";"))
    if found is None:
        return 0.0
    old, text = found["name"], found["rest"]
    text = f"{old} {found['sign']} ({text})" if found["sign"] else text
    try:
        tree = expression_of(text.strip()).body
        names = {node.id for node in ast.walk(tree) if isinstance(node, ast.Name)}
        if old not in names or len(names) != 2:
            return 0.0
        (new,) = names - {old}
        at = [_worth(tree, {old: a, new: b}) for a, b in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (3.0, 7.0))]
    except (SyntaxError, ValueError, ZeroDivisionError, OverflowError, RecursionError):
        return 0.0
    zero, kept, taken, both = at
    is_mean = abs(zero) < _NEARLY_ONE and abs(kept + taken - 1) < _NEARLY_ONE
    is_line = abs(3 * kept + 7 * taken - both) < _NEARLY_ONE
    return taken if is_mean and is_line and 0 < taken < 1 else 0.0


def _worth(node: ast.expr, values: dict[str, float]) -> float:
    """The value of sums and products of numbers and names. Raises ValueError for anything else."""
    match node:
        case ast.Constant(value=int() | float() as number):
            return float(number)
        case ast.Name(id=name):
            return values[name]
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return -_worth(operand, values)
        case ast.BinOp(left=left, op=op, right=right):
            a, b = _worth(left, values), _worth(right, values)
            match op:
                case ast.Add():
                    return a + b
                case ast.Sub():
                    return a - b
                case ast.Mult():
                    return a * b
                case ast.Div():
                    return a / b
    raise ValueError("neither a sum nor a product")
