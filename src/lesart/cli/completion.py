"""``lesart completion``: the script by which a shell completes commands and options."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from pathlib import Path

from lesart.cli.arguments.reading import whole_parser


def run(options: argparse.Namespace) -> int:
    """Print it: eval "$(lesart completion bash)" turns it on."""
    import shtab

    parser = whole_parser()
    for action in _actions(parser):
        if action.type is Path:
            action.complete = shtab.FILE  # type: ignore[attr-defined]
    print(shtab.complete(parser, shell=options.shell))
    return 0


def _actions(parser: argparse.ArgumentParser) -> Iterator[argparse.Action]:
    """The actions of a parser and of its commands."""
    for action in parser._actions:
        yield action
        if isinstance(action, argparse._SubParsersAction):
            for command in action.choices.values():
                yield from _actions(command)
