"""All of them, in the order in which `lesart demo --list` has them."""

from __future__ import annotations

from lesart.core.errors import RequestError
from lesart.demo.jobs import analog, buses, counted, digits, heat_and_height, pixels, powered, single_wire, texts
from lesart.demo.jobs.job import Job

JOBS: tuple[Job, ...] = (
    counted.WHEEL,
    counted.ECHO,
    single_wire.SHED,
    single_wire.CAVE,
    analog.HUT,
    analog.CHIP,
    heat_and_height.GATE,
    heat_and_height.BAROMETER,
    heat_and_height.OVEN,
    pixels.WINDOW,
    pixels.SMALL,
    pixels.PIXELS,
    digits.DRIVER,
    digits.YARD,
    buses.SOIL,
    buses.MACHINE,
    buses.AXES,
    texts.NUMBER,
    texts.RUNNING,
    texts.CENTRED,
    powered.MOONLIGHT,
)


def job_named(name: str) -> Job:
    """By its name or that of its folder. Raises RequestError."""
    for job in JOBS:
        if name in (job.name, job.folder):
            return job
    raise RequestError(f'"{name}" is not a job; there are {", ".join(job.folder for job in JOBS)}.')
