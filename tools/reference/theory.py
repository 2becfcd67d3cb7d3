"""What is computed: every law, fit, filter, sum and rule of timing, with its source."""

from __future__ import annotations

from tools.reference.project_file import WEIGHTS
from tools.reference.table import table

from lesart.core import calm, law
from lesart.core.pace.rules import RULES
from lesart.core.true.correction import FIT_RULES
from lesart.core.wire.sums import SUMS

HEAD = """\
# What is computed

Every formula that a number goes through, from the records that the program computes by. Which values each takes stands
on the page of the [project file](project-file.md). `lesart law KIND X` tries a law, `lesart hand` a whole channel.

*This page is made from the program by `make reference`.*
"""
LAWS = """
## Laws

The forward direction is given; the inverse is worked out of it, or found by bisection where there is no closed form,
and a test holds the two together within 1e-12 of the range. Counts of an ADC of n bits: code c stands for
c ÷ 2ⁿ of the reference. How sure a reading is: each tolerance t moves it by |∂reading ÷ ∂value| · t, what comes from
one part or rail moves together, and the parts are added by their squares; a simulation of a thousand draws stands
beside it.
"""
FIELDS = """
## Fields

What a field shows is the correctly rounded decimal of the reading as it is, in the mode it names: the reading is a
binary number, is turned into its exact decimal, and that is rounded once. A value that is too wide shows the overflow
text, never a cut number.
"""


def page() -> str:
    """All of it."""
    return "\n".join(
        [
            HEAD,
            LAWS,
            table(
                ("law", "formula", "source"),
                ((f"`{k.name}`", k.formula, k.source) for k in law.KINDS.values()),
            ),
            "\n## Fits\n\n" + WEIGHTS + " The error of a fit is judged by leaving one reference out at a time.\n",
            table(("fit", "computes"), ((f"`{name}`", says) for name, says in FIT_RULES.items())),
            "\n## Filters\n\nx is the good sample that comes, t its time, y what goes out. Unless stated otherwise a "
            "bad sample passes with its mark and leaves the state as it was. Delay and noise of each, "
            "with its values, are shown on the screen and measured by tests.\n",
            table(("filter", "computes"), ((f"`{k.name}`", k.computes) for k in calm.KINDS.values())),
            FIELDS,
            "\n## Sums of the bench\n",
            table(("sum", "formula", "source"), ((f"`{k.name}`", k.formula, k.source) for k in SUMS.values())),
            "\n## Rules of timing\n\nThe figures of 8 Pace and of `lesart pace`; … stands for a name.\n",
            table(
                ("figure", "unit", "how it is worked out", "limit"),
                ((rule.name, rule.unit, rule.works_out, rule.limit) for rule in RULES),
            ),
        ]
    )
