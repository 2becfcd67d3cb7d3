"""All jobs with their mistakes."""

from __future__ import annotations

from lesart.demo.jobs.job import Job
from lesart.demo.jobs.listed import JOBS as JOBS_DONE_RIGHTLY
from tests.mistakes import analog, buses, counted, digits, heat_and_height, pixels, powered, single_wire, texts
from tests.mistakes.mistake import Mistake

MISTAKES: tuple[tuple[Mistake, ...], ...] = (
    counted.WHEEL_MISTAKES,
    counted.ECHO_MISTAKES,
    single_wire.SHED_MISTAKES,
    single_wire.CAVE_MISTAKES,
    analog.HUT_MISTAKES,
    analog.CHIP_MISTAKES,
    heat_and_height.GATE_MISTAKES,
    heat_and_height.BAROMETER_MISTAKES,
    heat_and_height.OVEN_MISTAKES,
    pixels.WINDOW_MISTAKES,
    pixels.SMALL_MISTAKES,
    pixels.PIXELS_MISTAKES,
    digits.DRIVER_MISTAKES,
    digits.YARD_MISTAKES,
    buses.SOIL_MISTAKES,
    buses.MACHINE_MISTAKES,
    buses.AXES_MISTAKES,
    texts.NUMBER_MISTAKES,
    texts.RUNNING_MISTAKES,
    texts.CENTRED_MISTAKES,
    powered.MOONLIGHT_MISTAKES,
)
"""In the order of the jobs."""

JOBS: tuple[tuple[Job, tuple[Mistake, ...]], ...] = tuple(zip(JOBS_DONE_RIGHTLY, MISTAKES, strict=True))
