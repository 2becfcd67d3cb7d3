"""The leaf of the supply: capacity and load of each rail, and battery life."""

from __future__ import annotations

from lesart.core.quantity import plain_number
from lesart.core.wire.currents import Drawn, Load, loads_of
from lesart.core.wire.entry import written
from lesart.core.wire.hookup import Hookup
from lesart.desk.workspace.context import Context, label, text
from lesart.desk.workspace.wire.joins import marks
from lesart.study.views import Line, Tone

BAR = 30
MOST_TAKERS = 8


def supply_lines(context: Context) -> list[Line]:
    """One group per rail, the outermost first as they contain the others."""
    hookup = context.project.hookup
    loads = loads_of(hookup)
    if not loads:
        return [(text("Nothing is fed yet."),), (label("Join supplies to a rail; "), text("j"), label(" does it."))]
    loads = tuple(sorted(loads, key=lambda load: bool(hookup.pin(load.rail).fed_by)))
    lines: list[Line] = []
    for load in loads:
        lines += [*_rail(context, load), ()]
    return lines[:-1]


def _rail(context: Context, load: Load) -> list[Line]:
    hookup = context.project.hookup
    limit = "what it gives is not stated" if load.limit_a is None else f"gives {_amps(load.limit_a)}"
    plug = "" if "supply out" in hookup.pin(load.rail).roles else " (its own plug)"
    lines: list[Line] = [
        (
            text(f" {load.rail}", bold=True),
            label(f"{plug}  {limit}"),
            text(f"  {marks(context, load.rail.part, load.rail.pin)}", "rubric"),
        ),
        _bar("as usual", load.usual_a, load.limit_a, "verdigris"),
        _bar(f"{load.worst.of} at its peak" if load.worst else "peak", load.one_peak_a, load.limit_a, "ochre"),
        _bar("all peaks at once", load.all_peaks_a, load.limit_a, "ochre"),
    ]
    lines += [_taker(each) for each in _together(load)[:MOST_TAKERS]]
    hours = battery_h(hookup, load)
    if hours is not None:
        shown = f"{hours:.3g} h" if hours < 96 else f"{hours / 24:.3g} d"
        lines.append(
            (
                label("   lasts "),
                text(shown, "verdigris"),
                label(" awake all the time; battery hours, a sum, lets it sleep"),
            )
        )
    return lines


def _bar(words: str, amps: float, limit_a: float | None, tone: Tone) -> Line:
    """A bar of the load as a share of the rail's capacity, with the figure."""
    figure = f"{_amps(amps):>10}"
    if not limit_a:
        return (label(f"   {words[:25]:<26}"), text(figure))
    share = amps / limit_a
    over = share > 1
    filled = min(round(share * BAR), BAR)
    return (
        label(f"   {words[:25]:<26}"),
        text(figure, "rubric" if over else "text"),
        text("  "),
        text("━" * filled, "rubric" if over else tone),
        label("╌" * (BAR - filled)),
        text(f" {plain_number(share * 100, 3)} %", "rubric" if over else "text"),
    )


def _together(load: Load) -> list[Drawn]:
    """The current of each part, greatest first; segments of a display count as one load."""
    found: dict[str, Drawn] = {}
    for each in load.drawn:
        before = found.get(each.of, Drawn(each.of, 0.0, 0.0))
        found[each.of] = Drawn(each.of, before.usual_a + each.usual_a, before.peak_a + each.peak_a)
    return sorted(found.values(), key=lambda each: -each.peak_a)


def _taker(each: Drawn) -> Line:
    return (
        label(f"      {each.of[:22]:<23}"),
        text(f"{_amps(each.usual_a):>10}"),
        label("  peak "),
        text(_amps(each.peak_a)),
    )


def battery_h(hookup: Hookup, load: Load) -> float | None:
    """Life of a battery at the usual current in hours; None for anything else."""
    part = hookup.parts[load.rail.part]
    if "capacity" not in part.values or load.usual_a <= 0:
        return None
    return part.value("capacity") * part.value("usable", 100.0) / 100 / load.usual_a


def _amps(amps: float) -> str:
    return written(float(f"{amps:.3g}"), "A")
