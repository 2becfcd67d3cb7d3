"""A pasted line of code: ``float volts = adc * 5.0f / 1023;`` becomes a formula.

The reading has a name of its own there.
"""

from __future__ import annotations

import ast
import keyword
import re
from collections.abc import Collection

from lesart.core.law.formula_words import CHOSEN, CONSTANTS, FUNCTIONS
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.syntax import expression_of

_NUMBERS = r"(?:float|double|int|long|short|byte|word|u?int\d{1,2}(?:_t)?)"
_DECLARED = re.compile(
    rf"^(?:(?:const|static|volatile|unsigned|signed|let|var|auto)\s+)*(?:{_NUMBERS}\s+)?(?=[A-Za-z_]\w*\s*=)"
)
_RETURNED = re.compile(r"^return\b\s*")
_CAST = re.compile(
    rf"\(\s*(?:unsigned\s+)?{_NUMBERS}\s*\)|\bstatic_cast\s*<\s*{_NUMBERS}\s*>|\b(?:float|double)(?=\s*\()"
)
_SUFFIX = re.compile(r"(?<![\w.])(\d+\.\d*|\.\d+)[fF]\b|(?<![\w.])(\d+)(?:[uU]?[lL]{1,2}|[uU])\b")
_REMARK = re.compile(r";\s*(?://|#|/\*).*$|\s#\s.*$")
_OF_LIBRARIES = re.compile(r"\b(?:std::|math\.|Math\.|np\.|numpy\.)(?=[A-Za-z])")
_CHOICE = re.compile(r"^(?P<test>[^?:]+)\?(?P<yes>[^?:]+):(?P<no>[^?:]+)$")
_CALLED = {"fabs": "abs", "log": "ln", "logf": "ln", "log10f": "log10", "sqrtf": "sqrt", "expf": "exp", "powf": "pow"}
"""Functions in code, by a formula's name for them: in code log is the natural one."""
_NAME = re.compile(r"(?<![\w.])[A-Za-z_][A-Za-z_0-9]*(?:(?:\.|->)[A-Za-z_]\w*)*(?:\(\s*[\w.]*\s*\))?")
_IN_A_PROGRAM = re.compile(r"[a-z][A-Z]|_|\(")
"""Names written like variables, not like words of a sentence."""


def of_program(said: str) -> str:
    """The expression of a line of code, with the name of its result if any; any other line unchanged."""
    bare = _REMARK.sub("", said.strip())
    text = _RETURNED.sub("", _DECLARED.sub("", bare.rstrip("; ")))
    plain = _SUFFIX.sub(lambda found: found[1] or found[2], _OF_LIBRARIES.sub("", _CAST.sub("", text)))
    if plain == said.strip():
        return said
    return re.sub(r"\b(\w+)(?=\s*\()", lambda found: _CALLED.get(found[1], found[1]), plain)


def chosen(text: str) -> str:
    """``x > 500 ? 1 : 0`` as a formula."""
    found = _CHOICE.fullmatch(text.strip())
    return f"({found['yes'].strip()}) if {found['test'].strip()} else ({found['no'].strip()})" if found else text


def names_in(text: str, known: Collection[str]) -> tuple[str, ...]:
    """All names in order that are neither these nor words of a formula."""
    words = {*known, *FUNCTIONS, *CONSTANTS, *CHOSEN, "pow"}
    return tuple(dict.fromkeys(each[0] for each in _NAME.finditer(text) if each[0].partition("(")[0] not in words))


def reading_named(text: str, known: Collection[str], *, may_be_a_word: bool) -> str:
    """The one name in it that nothing here has: what a program calls the reading. Empty where there is none, or more.

    ``may_be_a_word``: what has a result is reckoned; else the name has to be one of a variable.
    """
    names = names_in(_without_its_unit(text), known)
    if len(names) != 1:
        return ""
    (name,) = names
    beside = rf"[-−+*/×·÷(<>^,]\s*{re.escape(name)}(?![\w.])|(?<![\w.]){re.escape(name)}\s*[-−+*/×·÷)<>^,%&?]"
    if not re.search(beside, text):
        return ""  # 7.5 Q of a flow meter
    is_call = "(" in name
    # A small letter is a variable; so is a capital one behind a sign, where no unit stands.
    is_letter = len(name) == 1 and (
        name.islower() or (may_be_a_word and name not in "VU" and _behind_a_sign(name, text))
    )
    is_unit = unit_said(name) is not None and not is_letter
    if is_unit or (not may_be_a_word and not _IN_A_PROGRAM.search(name)):
        return ""
    return name if is_call or not keyword.iskeyword(name) or name == "in" else ""


def _without_its_unit(text: str) -> str:
    """Without the unit of the result, which stands alone at the end."""
    head, _, last = text.rstrip().rpartition(" ")
    is_unit = re.search(r"[\w)]$", head.rstrip()) is not None and unit_said(last) is not None
    return head if is_unit and names_in(head, ()) else text


def _behind_a_sign(name: str, text: str) -> bool:
    return re.search(rf"[-−+*/×·÷(]\s*{name}(?![\w.])", text) is not None


def simplified(text: str) -> str:
    """The expression with powers, shifts, masks and remainders as a formula has them; unchanged where it cannot be
    parsed."""
    whole = _Whole()
    try:
        changed = ast.fix_missing_locations(whole.visit(expression_of(text.strip())))
        return ast.unparse(changed) if whole.met else text
    except (SyntaxError, ValueError, MemoryError, RecursionError):  # the last two of what is nested too deeply
        return text


class _Whole(ast.NodeTransformer):
    """Rewrites integer operations into floors and powers of two."""

    def __init__(self) -> None:
        self.met = False

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        if not (isinstance(node.func, ast.Name) and node.func.id == "pow" and len(node.args) == 2):
            return node
        self.met = True
        return ast.BinOp(node.args[0], ast.Pow(), node.args[1])

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        made = self._made(node)
        self.met = self.met or made is not None
        return made or node

    def _made(self, node: ast.BinOp) -> ast.expr | None:
        right = node.right.value if isinstance(node.right, ast.Constant) else None
        whole = right if isinstance(right, int) and not isinstance(right, bool) and right >= 0 else None
        match node.op:
            case ast.RShift() if whole is not None and whole <= 64:
                return _floor(node.left, ast.Constant(2**whole))
            case ast.LShift() if whole is not None and whole <= 64:
                return ast.BinOp(node.left, ast.Mult(), ast.Constant(2**whole))
            case ast.BitAnd() if whole and not whole & (whole + 1):
                return _left(node.left, ast.Constant(whole + 1))
            case ast.FloorDiv():
                return _floor(node.left, node.right)
            case ast.Mod():
                return _left(node.left, node.right)
        return None


def _floor(above: ast.expr, below: ast.expr) -> ast.expr:
    return ast.Call(ast.Name("floor", ast.Load()), [ast.BinOp(above, ast.Div(), below)], [])


def _left(value: ast.expr, of: ast.expr) -> ast.expr:
    """The remainder of a division."""
    return ast.BinOp(value, ast.Sub(), ast.BinOp(of, ast.Mult(), _floor(value, of)))
