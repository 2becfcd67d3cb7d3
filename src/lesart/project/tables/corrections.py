"""The tables of a correction: the fit, its references, and earlier calibrations."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date

from lesart.core.errors import Problem
from lesart.core.parameters import Parameter, read_table, shown
from lesart.core.true.correction import DEGREES, FITS, Correction, fit_correction
from lesart.core.true.history import Calibration
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.true.reference import Reference
from lesart.core.units import Unit
from lesart.project.model import Table
from lesart.project.tables.list_tables import difference_at, in_unit, tables_at

TRUE = (
    Parameter("kind", "fit", "choice", "what is fitted through the references", "none", choices=FITS),
    Parameter("degree", "degree", "integer", "of a polynomial", DEGREES[0], lowest=DEGREES[0], highest=DEGREES[1]),
    Parameter("tare", "tare", "any quantity", "subtracted after the fit: what is there and must not count", "0"),
    Parameter(
        "valid", "valid for", "quantity", "after which references are old; 0: for good", "0 d", unit="d", lowest=0
    ),
    Parameter(
        "residual",
        "left at most",
        "any quantity",
        "a larger error after the fit is a note; 0: tolerances of the known values",
        "0",
        lowest=0,
    ),
)


def _day(written: str, place: str, problems: list[Problem]) -> int | None:
    """The ordinal number of a day, or None where none is written."""
    try:
        return date.fromisoformat(written).toordinal() if written else None
    except ValueError:
        problems.append(Problem(place, shown(written), 'it must be a day, like "2026-05-14"'))
        return None


def check_true(
    table: object, place: str, unit: Unit, turn: float, problems: list[Problem]
) -> tuple[tuple[Reference, ...], Correction | None, float, float]:
    """References, the fit through them, what may be left after it, and for how many days they are valid.

    ``turn`` is once around in ``unit``, 0 where nothing comes round.
    """
    values, found = read_table(TRUE, table, place, also=("references",))
    if found or not isinstance(table, Mapping):
        problems += found
        return (), None, 0.0, 0.0
    before = len(problems)
    limit, tare = (difference_at(values[name], unit, f"{place}.{name}", problems) for name in ("residual", "tare"))
    references = _references(table, place, unit, turn, problems)
    if len(problems) > before:
        return (), None, limit, 0.0
    try:
        fitted = fit_correction(values["kind"], references, unit, values["degree"])
        return references, replace(fitted, tare=tare), limit, values["valid"]
    except ValueError as error:
        problems.append(Problem(f"{place}.references", "", str(error)))
        return references, None, limit, 0.0


def check_calibrations(
    table: object, place: str, unit: Unit, turn: float, problems: list[Problem]
) -> tuple[Calibration, ...]:
    """Earlier calibrations by name, each written like the adopted one."""
    if not isinstance(table, Mapping):
        problems.append(Problem(place, shown(table), "it must hold tables with names, like [….calibrations.spring]"))
        return ()
    found = []
    for name, each in table.items():
        references, correction, _, _ = check_true(each, f"{place}.{name}", unit, turn, problems)
        if correction is not None:
            found.append(Calibration(name, references, correction))
    return tuple(found)


def _references(table: Table, place: str, unit: Unit, turn: float, problems: list[Problem]) -> tuple[Reference, ...]:
    found = []
    for index, entry in enumerate(tables_at(table, "references", place, problems)):
        here = f"{place}.references[{index}]"
        each, wrong = read_table(REFERENCE, entry, here)
        problems += wrong
        if wrong:
            continue
        true, indicated = (in_unit(each[name], unit, f"{here}.{name}", problems) for name in ("true", "indicated"))
        known = REFERENCE[0].tolerance(entry["true"]) * float(each["true"].unit.scale / unit.scale)
        spread, drift = (difference_at(each[name], unit, f"{here}.{name}", problems) for name in ("spread", "drift"))
        found.append(
            Reference(
                true=true,
                indicated=indicated,
                count=each["count"],
                taken=each["taken"],
                used=each["used"],
                tolerance=known,
                spread=spread,
                drift=drift,
                way=each["way"],
                remark=each["remark"],
                day=_day(each["date"], f"{here}.date", problems),
                turn=turn,
            )
        )
    return tuple(found)
