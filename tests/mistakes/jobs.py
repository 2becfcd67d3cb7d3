"""All jobs with their mistakes."""

from __future__ import annotations

from tests.mistakes import analog, buses, counted, digits, heat_and_height, pixels, powered, single_wire, texts
from tests.mistakes.mistake import Job, Mistake

JOBS: tuple[tuple[Job, tuple[Mistake, ...]], ...] = (
    (counted.WHEEL, counted.WHEEL_MISTAKES),
    (counted.ECHO, counted.ECHO_MISTAKES),
    (single_wire.SHED, single_wire.SHED_MISTAKES),
    (single_wire.CAVE, single_wire.CAVE_MISTAKES),
    (analog.HUT, analog.HUT_MISTAKES),
    (analog.CHIP, analog.CHIP_MISTAKES),
    (heat_and_height.GATE, heat_and_height.GATE_MISTAKES),
    (heat_and_height.BAROMETER, heat_and_height.BAROMETER_MISTAKES),
    (heat_and_height.OVEN, heat_and_height.OVEN_MISTAKES),
    (pixels.WINDOW, pixels.WINDOW_MISTAKES),
    (pixels.SMALL, pixels.SMALL_MISTAKES),
    (pixels.PIXELS, pixels.PIXELS_MISTAKES),
    (digits.DRIVER, digits.DRIVER_MISTAKES),
    (digits.YARD, digits.YARD_MISTAKES),
    (buses.SOIL, buses.SOIL_MISTAKES),
    (buses.MACHINE, buses.MACHINE_MISTAKES),
    (buses.AXES, buses.AXES_MISTAKES),
    (texts.NUMBER, texts.NUMBER_MISTAKES),
    (texts.RUNNING, texts.RUNNING_MISTAKES),
    (texts.CENTRED, texts.CENTRED_MISTAKES),
    (powered.MOONLIGHT, powered.MOONLIGHT_MISTAKES),
)
