"""A bench with everything that a project may need."""

from __future__ import annotations

from pathlib import Path

from lesart.project.model import Channel, Project
from lesart.study.bench import Bench


def bench_at(folder: Path, *, keeps: bool = True) -> Bench:
    """The bench for the project in a folder; ``keeps`` caches long captures there."""
    return Bench(folder, keeps=keeps, as_firmware=_as_firmware)


def _as_firmware(project: Project, bench: Bench, channel: Channel) -> Channel:
    from lesart.study.packing.at_desk import as_firmware  # only loaded when needed

    return as_firmware(project, bench, channel)
