"""Finding the project and the channel that a command names."""

from __future__ import annotations

from pathlib import Path

from lesart.core.errors import RequestError
from lesart.project.assets.named import Assets
from lesart.project.called import channel_called
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, project_folder, read_text
from lesart.project.model import Channel, Project
from lesart.project.tables.variants import FIRST


def opened(path: Path) -> tuple[Path, Project]:
    """Folder and checked project. Raises StorageError or ProjectError."""
    folder = project_folder(path)
    return folder, check_project(read_text(folder / FILE), assets=Assets(folder))


def channel_named(project: Project, name: str, variant: str | None = None) -> Channel:
    """A channel, or a variant of it. Raises RequestError with the existing ones."""
    called = channel_called(name, project.channels)
    if called is None:
        raise RequestError(
            f'channel "{name}" is not in the project, which has {", ".join(project.channels) or "none"}.'
        )
    channel = project.channels[called]
    if variant in (None, FIRST):
        return channel
    found = next((each for each in channel.variants if each.variant == variant), None)
    if found is None:
        known = ", ".join((FIRST, *(each.variant for each in channel.variants)))
        raise RequestError(f'variant "{variant}" is not in channel {name}; it has {known}.')
    return found
