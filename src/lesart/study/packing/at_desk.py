"""A channel at the desk as its firmware will compute it: the whole thread after Raw in integers."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.pack.as_chain import whole_chain
from lesart.core.pack.settings import FLOATS
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.packing.made import form_alone


def as_firmware(project: Project, bench: Bench, channel: Channel) -> Channel:
    """The channel with an integer chain instead of its own. Raises PackError where there is none."""
    return replace(channel, chain=whole_chain(form_alone(project, bench, channel)), computed=FLOATS)
