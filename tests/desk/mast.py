"""A desk with a converter of ten bits at 5 V, volts, a weather mast, and pulses of each second."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project

CODE, VOLT, AIR, MOIST, WIND, PULSES = "adc", "volts [V]", "air [°C]", "hum [%]", "wind [m/s]", "pulses"
CODES = [480 + place % 40 for place in range(100)]
VOLTS = [1.2 + 0.01 * (place % 20) for place in range(100)]


def mast(folder: Path) -> Desk:
    """In 3 Law, as nobody has said anything of its channels."""
    head = f"time [s],{CODE},{VOLT},{AIR},{MOIST},{WIND},{PULSES}"
    rows = [
        f"{k},{code},{volt:.3f},{10 + k % 5},{60 + k % 9},{3 + 0.1 * (k % 7):.1f},{4 + k % 3}"
        for k, (code, volt) in enumerate(zip(CODES, VOLTS, strict=True))
    ]
    (folder / "bench.csv").write_text("\n".join([head, *rows]) + "\n")
    make_project(folder / "bench.csv", folder / "bench")
    desk = open_desk(folder / "bench")
    desk.open_step(Step.LAW)
    return desk


def read(desk: Desk) -> np.ndarray[Any, Any]:
    """What the laws of the chosen channel make of the capture."""
    values: np.ndarray[Any, Any] = desk.bench.run(desk.state.project, desk.state.chosen).blocks[Step.LAW].x
    return values
