"""The pack in a project's folder: the operations of each channel in the firmware."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.core.pack.settings import PackSettings
from lesart.core.pack.written import LIST
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench

FOLDER = "firmware"
"""The folder, within the project's own, where the desk writes a pack."""


def definition_of(project: Project, name: str, settings: PackSettings) -> str:
    """A digest of everything that a channel's packing depends on: its tables, its source, and its faces."""
    channel = project.channels[name]
    tables = project.stated
    faces = [face.name for face in project.faces.values() if face.fields_of(name)]
    others = [definition_of(project, other, settings) for other in channel.chain.reads]
    whole = [
        tables.get("channels", {}).get(name),
        tables.get("sources", {}).get(channel.source),
        [tables.get("faces", {}).get(face) for face in faces],
        repr(settings),
        others,
    ]
    return hashlib.sha256(json.dumps(whole, sort_keys=True, default=str).encode()).hexdigest()[:16]


def written_operations(project: Project, bench: Bench, channel: Channel) -> int | None:
    """Most operations per raw sample in the written pack; None where there is none, the channel has changed since, or a
    variant is asked for."""
    if channel.variant:
        return None
    packed = _packed(bench).get(channel.name)
    if packed is None or packed.get("of") != definition_of(project, channel.name, project.pack):
        return None
    operations = packed.get("operations")
    return operations if isinstance(operations, int) and operations >= 0 else None


def _packed(bench: Bench) -> Mapping[str, Mapping[str, Any]]:
    path = bench.folder / FOLDER / LIST
    try:
        stamp = path.stat().st_mtime_ns
    except OSError:
        return {}
    return bench.once_known(("written pack", stamp), lambda: _read(path))


def _read(path: Path) -> Mapping[str, Mapping[str, Any]]:
    """The written operations by channel; none where a person has changed the file."""
    try:
        channels = json.loads(path.read_text(encoding="utf-8"))["channels"]
        return {each["name"]: each for each in channels}
    except (OSError, ValueError, KeyError, TypeError):
        return {}
