"""Scanned digits: one is lit at a time, in turn."""

from __future__ import annotations

from dataclasses import dataclass

from lesart.core.glass.drive import Scan
from lesart.core.notes import DOUBT, FAULT, Key, Mend, Note
from lesart.core.quantity import plain_number

NO_MEND: tuple[Mend, ...] = ()
COMFORT_HZ = 80.0
"""Below this, large or moving digits still shimmer for many people, though a small steady one looks still."""


@dataclass(frozen=True)
class ScanVerdict:
    """Over one round of all digits. ``duty`` is the lit part of a digit's time, 0 … 1: brightness against steady."""

    period_ms: float
    refresh_hz: float
    duty: float
    steady: bool
    mend_on_time_ms: float | None
    """On-time that meets the wanted refresh at the same blanking; None when none does or none is needed."""


def judge_scan(scan: Scan, digits: int) -> ScanVerdict:
    """refresh = 1 ÷ (digits × (on-time + blanking)), duty = on-time ÷ period."""
    period_ms = digits * (scan.on_time_ms + scan.blanking_ms)
    refresh_hz = 1000.0 / period_ms
    steady = refresh_hz >= scan.wanted_hz
    longest = 1000.0 / (digits * scan.wanted_hz) - scan.blanking_ms
    # Down to a tenth of a millisecond, what a person would write; finer only where that would be nothing.
    tidy = int(longest * 10) / 10 or longest
    mend = tidy if not steady and tidy > 0 else None
    return ScanVerdict(period_ms, refresh_hz, scan.on_time_ms / period_ms, steady, mend)


def inspect_scan(panel: str, scan: Scan, digits: int, key: Key) -> list[Note]:
    """Flicker. ``key`` is where the scan stands in the project."""
    verdict = judge_scan(scan, digits)
    refresh = plain_number(verdict.refresh_hz, 3)
    wanted = plain_number(scan.wanted_hz, 3)
    if verdict.steady:
        if verdict.refresh_hz >= COMFORT_HZ:
            return []
        return [
            Note(DOUBT, "pace", None, f"{panel}: refresh {refresh} Hz looks steady, but shimmers when the eye moves.",
                 figure=verdict.refresh_hz, unit="Hz", limit=COMFORT_HZ, remedy="a shorter on-time", panel=panel)
        ]  # fmt: skip
    if verdict.mend_on_time_ms is None:
        remedy, mend = "shorten the blanking, or scan fewer digits", NO_MEND
    else:
        remedy = f"on-time {plain_number(verdict.mend_on_time_ms)} ms in place of {plain_number(scan.on_time_ms)} ms"
        mend = (Mend((*key, "on_time"), f"{verdict.mend_on_time_ms:g} ms"),)
    return [
        Note(FAULT, "pace", None, f"{panel}: {digits} digits refreshed at {refresh} Hz flicker; {wanted} Hz is wanted.",
             figure=verdict.refresh_hz, unit="Hz", limit=scan.wanted_hz, remedy=remedy, mend=mend, panel=panel)
    ]  # fmt: skip
