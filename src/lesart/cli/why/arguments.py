"""How ``lesart why`` is told of truths: each with its own raw value or moment."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any


class Paired(argparse.Action):
    """``--raw`` and ``--at`` belong to the ``--should`` before them; of a panel ``--at`` stands alone."""

    def __call__(self, parser: Any, namespace: Any, values: Any, option_string: str | None = None) -> None:
        given = list(getattr(namespace, "truths", None) or [])
        if self.dest == "should":
            given.append({"should": values})
        elif self.dest == "at" and not given:
            namespace.at = values
        elif not given or self.dest in given[-1]:
            parser.error(f"{option_string} {values}: it belongs behind the --should that it is of")
        else:
            given[-1][self.dest] = values
        namespace.truths = given


def why_arguments(command: argparse.ArgumentParser) -> None:
    """What ``lesart why`` is told."""
    command.add_argument("project", type=Path)
    command.add_argument("channel", nargs="?", metavar="channel, panel or part")
    command.add_argument(
        "--time",
        choices=("flickers", "lags", "missed", "freezes"),
        help="of the loop: which task or setting explains it",
    )
    command.add_argument(
        "--nothing", action="store_true", help="nothing comes, or always the same: what to measure, and what it means"
    )
    command.add_argument(
        "--should",
        action=Paired,
        metavar="READING",
        help="what it should read, e.g. '21.5 °C' or '21.5 °C ± 0.3'; several may be given; default: its references",
    )
    command.add_argument("--raw", action=Paired, metavar="V", help="raw value at which it should; of the one before")
    command.add_argument("--at", action=Paired, type=float, metavar="S", help="moment of the capture; default: its end")
    command.add_argument("--variant", help="of the channel; default: the channel itself")
    command.add_argument("--pattern", metavar="NAME", help="of a panel: what is shown on it; default: what tells most")
    command.add_argument(
        "--pick", type=int, action="append", default=[], metavar="N", help="the look that you see; once a question"
    )
    command.add_argument(
        "--sees", metavar="TEXT", help="what is seen there: 'bc | abged | …' of segments, 'row | row' of characters"
    )
    command.set_defaults(truths=None, at=None)
    command.add_argument("--json", action="store_true", help="for a script; the object says its version")
