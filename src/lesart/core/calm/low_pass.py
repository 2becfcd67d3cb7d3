"""The low-pass filter by order and cut-off."""

from __future__ import annotations

import cmath
import math
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.calm import poles
from lesart.core.calm.record import Cost, FilterKind
from lesart.core.calm.stepping import MOST_SETTLING, SETTLED, Stepping
from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter
from lesart.core.quantity import plain_number
from lesart.core.units import Unit

LEAST_SHARE = 1e-6
"""Least cut-off as a share of the sample rate: below it floats cannot tell the coefficients apart."""


@dataclass(frozen=True)
class LowPass(Stepping):
    """Butterworth low-pass of order 1 to 4 at ``cutoff_hz``, for samples that come at ``rate_hz``.

    From the analog poles by the bilinear transform, the cut-off prewarped; it starts as if its first sample had been
    there for ever. Source: any textbook of digital filters.
    """

    order: int
    cutoff_hz: float
    rate_hz: float
    kind: str = "low-pass"

    @cached_property
    def parts(self) -> poles.Poles:
        """Its transfer function in partial fractions."""
        return _fractions(self.order, self.cutoff_hz / self.rate_hz)

    @property
    def settling_samples(self) -> int:
        return _settled_after(self.order, self.cutoff_hz / self.rate_hz)

    def begin(self, t: float, x: float) -> poles.Stand:
        return poles.begin(self.parts, x)

    def advance(self, state: poles.Stand, t: Floats, x: Floats) -> tuple[poles.Stand, Floats]:
        return poles.advance(self.parts, state, x)


def _fractions(order: int, share: float) -> poles.Poles:
    """Partial fractions: gain × (1 + 1/z)^order ÷ Π(1 − pole/z) = gain + Σ part ÷ (z − pole), the part of a pole being
    its residue."""
    warped = 2.0 * math.tan(math.pi * share)
    analog = [warped * cmath.exp(1j * math.pi * (2 * index + order + 1) / (2 * order)) for index in range(order)]
    every = [(2.0 + pole) / (2.0 - pole) for pole in analog]
    gain = math.prod((1 - pole) / 2 for pole in every).real
    kept = every[: (order + 1) // 2]
    gains = []
    for pole in kept:
        others = math.prod(pole - each for each in every if each is not pole)
        part = gain * (pole + 1) ** order / others
        gains.append(2 * part if pole is not every[len(every) - 1 - every.index(pole)] else complex(part.real))
    real = [complex(pole.real) if order % 2 and pole is every[order // 2] else pole for pole in kept]
    return poles.Poles(gain, True, tuple(real), tuple(gains))


def _butterworth(order: int, share: float) -> tuple[tuple[float, float, float, float, float], ...]:
    """Sections for a cut-off of ``share`` of the sample rate, 0 to 0.5."""
    warped = 2.0 * math.tan(math.pi * share)
    sections = []
    for index in range(order // 2):
        pole = warped * cmath.exp(1j * math.pi * (2 * index + order + 1) / (2 * order))
        z = (2.0 + pole) / (2.0 - pole)
        a1, a2 = -2.0 * z.real, abs(z) ** 2
        b = (1.0 + a1 + a2) / 4.0
        sections.append((b, 2.0 * b, b, a1, a2))
    if order % 2:
        z1 = (2.0 - warped) / (2.0 + warped)
        b = (1.0 - z1) / 2.0
        sections.append((b, b, 0.0, -z1, 0.0))
    return tuple(sections)


def sections_of(low_pass: LowPass) -> tuple[tuple[float, float, float, float, float], ...]:
    """b₀, b₁, b₂, a₁, a₂ of each section, as computed sample by sample; b₂ and a₂ are 0 in a one-pole section."""
    return _butterworth(low_pass.order, low_pass.cutoff_hz / low_pass.rate_hz)


@lru_cache(maxsize=64)
def _settled_after(order: int, share: float) -> int:
    """Samples until a step is within ``SETTLED`` of 1 and stays there for a while; at most ``MOST_SETTLING``."""
    sections = _butterworth(order, share)
    state = [[0.0, 0.0] for _ in sections]
    # At rest within a fraction of the slowest pole's time; a ringing one crosses 1 and comes back.
    patience = max(int(0.5 / share), 4)
    count = quiet = 0
    while quiet < patience and count < MOST_SETTLING:
        x = 1.0
        for memory, (b0, b1, b2, a1, a2) in zip(state, sections, strict=True):
            y = b0 * x + memory[0]
            memory[0], memory[1] = b1 * x - a1 * y + memory[1], b2 * x - a2 * y
            x = y
        count += 1
        quiet = quiet + 1 if abs(x - 1.0) < SETTLED else 0
    return count


def _lowpass_cost(values: dict[str, Any], interval_s: float) -> Cost:
    """Delay at low frequency and noise factor, both in closed form.

    Delay: the slope of the phase at 0, (Σn·b ÷ Σb) − (Σn·a ÷ Σa) summed over the sections. Noise: √(C·P·Cᵀ + D²) where
    P = A·P·Aᵀ + B·Bᵀ is the covariance of the state under white noise. Source: textbooks of digital filters and of
    linear systems.
    """
    sections = _butterworth(values["order"], values["cutoff"] / values["rate"])
    delay = sum((b1 + 2 * b2) / (b0 + b1 + b2) - (a1 + 2 * a2) / (1 + a1 + a2) for b0, b1, b2, a1, a2 in sections)
    return Cost(delay, _noise_of(sections), 8 * len(sections), 9.0 * len(sections))


def _noise_of(sections: tuple[tuple[float, float, float, float, float], ...]) -> float:
    """Noise factor of a cascade in transposed form, on white noise."""
    size = 2 * len(sections)
    a, b, c, d = np.zeros((size, size)), np.zeros(size), np.zeros(size), 1.0
    for place, (b0, b1, b2, a1, a2) in enumerate(sections):
        # The input of a section is c·state + d·input of those before it; its output is that times b0 plus s1.
        at, into, through = 2 * place, c.copy(), d
        c, d = b0 * into, b0 * through
        c[at] += 1.0
        for row, (b_own, a_own) in enumerate(((b1, a1), (b2, a2))):
            a[at + row] = b_own * into - a_own * c
            b[at + row] = b_own * through - a_own * d
        a[at, at + 1] += 1.0
    covariance = np.linalg.solve(np.eye(size * size) - np.kron(a, a), np.outer(b, b).ravel()).reshape(size, size)
    return math.sqrt(max(float(c @ covariance @ c) + d * d, 0.0))


def _lowpass(values: dict[str, Any], unit: Unit) -> LowPass:
    if not values["cutoff"] < values["rate"] / 2:
        raise ValueError(
            f"cut-off must be below half the rate, {plain_number(values['rate'] / 2)} Hz, not "
            f"{plain_number(values['cutoff'])} Hz"
        )
    if values["cutoff"] < LEAST_SHARE * values["rate"]:
        least = values["rate"] * LEAST_SHARE
        raise ValueError(
            f"cut-off must be {plain_number(least)} Hz or more at this rate, not "
            f"{plain_number(values['cutoff'])} Hz; decimate first"
        )
    return LowPass(unit, values["order"], values["cutoff"], values["rate"])


LOW_PASS = FilterKind(
    name="low-pass",
    computes=(
        "Butterworth by the bilinear transform, w = 2·tan(π·cut-off ÷ rate). For each pair of analog poles p "
        "= w·e^(iπ(2k + order + 1) ÷ 2·order), z = (2 + p) ÷ (2 − p), a₁ = −2·Re z, a₂ = |z|², b = (1 + a₁ + "
        "a₂) ÷ 4: y ← y₁ + a₂·(y₁ − y₂) + b·(x + 2x₁ + x₂ − 4y₁). An odd order has one section more, z = (2 − "
        "w) ÷ (2 + w), b = (1 − z) ÷ 2: y ← y₁ + b·(x + x₁ − 2y₁). Each section's y is the next one's x. The "
        "first good sample has always been: all x and y of before are it. Marked settling until a step would "
        "stay within 0.05 of its end."
    ),
    averages=True,
    rate="rate",
    title="low-pass by order and cut-off",
    says=lambda values: f"low-pass {values['cutoff']:g} Hz",
    parameters=(
        Parameter("order", "order", "integer", "how steep", 2, lowest=1, highest=4),
        Parameter(
            "cutoff", "cut-off", "quantity", "frequency at which 71 % is left", "1 Hz", unit="Hz", lowest=0, above=True
        ),
        Parameter("rate", "rate", "quantity", "at which samples come", "10 Hz", unit="Hz", lowest=0, above=True),
    ),
    build=_lowpass,
    cost=_lowpass_cost,
    in_turn=("cutoff", "order", "rate"),
    start=lambda unit, interval_s: (
        {
            "rate": f"{1 / interval_s:.6g} Hz",
            "cutoff": f"{0.1 / interval_s:.3g} Hz",
        }
        if interval_s > 0
        else {}
    ),
)
