"""Which readings a filter keeps, and smoothing as programs write it, as people say them at + in 5 Calm: ``keep 0-50``,
``ignore if > 50``, ``only if it changes by 0.2``, ``y += 0.1 * (x - y)``.
"""

from __future__ import annotations

import ast
import re

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
_OF_WEIGHT = re.compile(r"(?:ema\s+)?(?:alpha|weight)\s*[=:]?\s*(?P<weight>0?\.\d+)", re.IGNORECASE)
_CUT_OFF = re.compile(r"(?:fc|f_c|f0|cut-?off(?:\s+frequency)?)\s*[=:]\s*(?P<at>\d\S*\s*\S+)", re.IGNORECASE)
_NEARLY_ONE = 1e-6


def kept_plainly(said: str) -> str:
    """The filter that such a line means, in its own words; empty where it is none of these."""
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
    if found := _OF_WEIGHT.fullmatch(said):
        return f"exponential {found['weight']}"
    if found := _CUT_OFF.fullmatch(said):
        return f"low-pass {found['at']}"
    weight = weight_pasted(said)
    return f"exponential {weight:.9g}" if weight else ""


def weight_pasted(said: str) -> float:
    """Of the new reading, where a line of a program moves a value so far to it: ``y += 0.1 * (x - y)``; 0 for none."""
    line = of_program(said)
    found = re.fullmatch(r"(?P<name>[A-Za-z_]\w*)\s*(?P<sign>[-+]?)=\s*(?P<rest>[^=].*)", line.strip().rstrip(";"))
    if found is None:
        return 0.0
    old, text = found["name"], found["rest"]
    text = f"{old} {found['sign']} ({text})" if found["sign"] else text
    try:
        tree = ast.parse(text.strip(), mode="eval").body
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
    """Of sums and products of numbers and names. Raises ValueError for anything else."""
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
