"""All pages that are made, by their path below ``docs``."""

from __future__ import annotations

from collections.abc import Mapping

from tools.reference import commands, jobs, keys, known, project_file, theory


def pages() -> Mapping[str, str]:
    """Each with its text."""
    return {
        "project-file.md": project_file.page(),
        "commands.md": commands.page(),
        "keys.md": keys.page(),
        "theory.md": theory.page(),
        "known.md": known.page(),
        **jobs.pages(),
    }
