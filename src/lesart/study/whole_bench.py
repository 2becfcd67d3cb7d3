"""A bench that can do all that a project may ask of it."""

from __future__ import annotations

from pathlib import Path

from lesart.project.model import Channel, Project
from lesart.study.bench import Bench


def bench_at(folder: Path, *, keeps: bool = True) -> Bench:
    """For the project in a folder; ``keeps``: are long captures kept there, to be read sooner the next time?"""
    return Bench(folder, keeps=keeps, as_firmware=_as_firmware)


def _as_firmware(project: Project, bench: Bench, channel: Channel) -> Channel:
    from lesart.study.packing.at_desk import as_firmware  # not for who never asks for it

    return as_firmware(project, bench, channel)
