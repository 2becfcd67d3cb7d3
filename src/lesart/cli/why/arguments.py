"""Arguments of ``lesart why``: true values, each with its own raw value or time."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any


class Paired(argparse.Action):
    """``--raw`` and ``--at`` belong to the ``--should`` before them; for a panel ``--at`` is on its own."""

    def __call__(self, parser: Any, namespace: Any, values: Any, option_string: str | None = None) -> None:
        given = list(getattr(namespace, "truths", None) or [])
        if self.dest == "should":
            given.append({"should": values})
        elif self.dest == "at" and not given:
            namespace.at = values
        elif not given or self.dest in given[-1]:
            parser.error(f"{option_string} {values}: it goes after the --should it belongs to")
        else:
            given[-1][self.dest] = values
        namespace.truths = given


def why_arguments(command: argparse.ArgumentParser) -> None:
    """Add the arguments of ``lesart why``."""
    command.add_argument("project", type=Path)
    command.add_argument("channel", nargs="?", metavar="channel, panel or part")
    command.add_argument(
        "--time",
        choices=("flickers", "lags", "missed", "freezes"),
        help="what the loop does wrong: find the task or setting that explains it",
    )
    command.add_argument(
        "--nothing",
        action="store_true",
        help="nothing arrives, or always the same: say what to measure, and what it means",
    )
    command.add_argument(
        "--should",
        action=Paired,
        metavar="READING",
        help="what it should read, e.g. '21.5 °C', '21.5 °C ± 0.3' or '3 °C too high'; several may be given; "
        "default: its references",
    )
    command.add_argument(
        "--raw", action=Paired, metavar="V", help="the raw value at which it should read the --should before"
    )
    command.add_argument(
        "--at",
        action=Paired,
        type=float,
        metavar="S",
        help="where in the capture it should read the --should before; default: at its end",
    )
    command.add_argument("--variant", help="variant of the channel; default: the channel itself")
    command.add_argument(
        "--pattern", metavar="NAME", help="pattern to show on the panel; default: the one that tells most"
    )
    command.add_argument(
        "--pick",
        type=int,
        action="append",
        default=[],
        metavar="N",
        help="number of the look that you see; once for each question",
    )
    command.add_argument(
        "--sees",
        metavar="TEXT",
        help="what you see on the panel: 'bc | abged | …' for segments, 'row | row' for characters",
    )
    command.set_defaults(truths=None, at=None)
    command.add_argument("--json", action="store_true", help="print JSON for a script; the object says its version")
