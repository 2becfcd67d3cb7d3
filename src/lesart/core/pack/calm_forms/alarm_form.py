"""An alarm in integers: on and off by limits in steps, and times in milliseconds."""

from __future__ import annotations

import math
from fractions import Fraction

from lesart.core.block import UNUSABLE
from lesart.core.calm.alarm import ABOVE, Alarm
from lesart.core.pack.calm_forms.stage_form import Around, keep
from lesart.core.pack.program.statements import Function, Leave, Let, When
from lesart.core.pack.program.whole import LONGEST_MS, Whole, flags_of, local, pick, since, whole


def alarm_form(alarm: Alarm, around: Around) -> Function:
    """The form of an alarm: gives ``on`` besides the unchanged reading."""
    on, waits, then = around.kept("on", 0, 1), around.kept("waits", 0, 1), around.moment("then")
    least_ms = min(math.ceil(Fraction(alarm.least_s) * 1000), LONGEST_MS)
    limit, back = around.scale.exactly(alarm.limit), around.steps(alarm.hysteresis)
    beyond: Whole
    returned: Whole
    if alarm.side == ABOVE:
        beyond, returned = around.x > math.floor(limit), around.x <= math.floor(limit - back)
    else:
        beyond, returned = around.x < math.ceil(limit), around.x >= math.ceil(limit + back)
    changes = local("changes", 0, 1)
    now_on = local("on", 0, 1)
    body = (
        Let("on", on.value),
        When(flags_of(around.mark, int(UNUSABLE)), (Leave(),)),
        Let("changes", pick(on.value, pick(returned, 1, 0), pick(beyond, 1, 0))),
        When(
            changes,
            (
                When(waits.value, (), (keep(waits, whole(1)), keep(then, around.now))),
                When(
                    since(around.now, then.value) >= least_ms,
                    (keep(on, whole(1) - on.value), keep(waits, whole(0))),
                ),
            ),
            (keep(waits, whole(0)),),
        ),
        Let("on", on.value),
    )
    return Function(
        around.name, around.place, around.says, (around.x, around.mark, around.now), (now_on,), body, (on, waits, then)
    )
