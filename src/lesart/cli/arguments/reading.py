"""Parsing what was typed, by the command's own parser."""

from __future__ import annotations

import argparse
import re
from collections.abc import Sequence

from lesart import __version__
from lesart.cli.arguments.commands import COMMANDS

EPILOG = """\
exit code: 0 no fault, 1 a note marked †, 2 wrong use or a broken project,
           3 Lesart itself went wrong, and a report says how

the main job:
  lesart new bridge.csv            make a project from a capture
  lesart open bridge               follow the reading on a full screen
  lesart hand bridge mass --raw 461708
  lesart check bridge              every note, in text or --json
"""


def read_arguments(given: Sequence[str]) -> argparse.Namespace:
    """What was typed after ``lesart``: options stand anywhere; a number below 0 is no option, whatever its unit.

    Ends the program with a sentence where it makes no sense.
    """
    kept = [f" {each}" if re.match(r"-\.?\d", each) else each for each in given]
    if not kept or kept[0] not in COMMANDS:
        return _parser().parse_args(kept)
    name = kept[0]
    # Not a subparser: those only accept options without an argument between them.
    return command_parser(name).parse_intermixed_args(kept[1:], argparse.Namespace(command=name))


def command_parser(name: str) -> argparse.ArgumentParser:
    """The parser of one command, with all its arguments."""
    says, with_arguments = COMMANDS[name]
    command = argparse.ArgumentParser(prog=f"lesart {name}", description=description(says))
    with_arguments(command)
    return command


def whole_parser() -> argparse.ArgumentParser:
    """The parser of all commands with all their arguments, for shell completion."""
    return _parser(whole=True)


def description(says: str) -> str:
    return says[0].upper() + says[1:] + "."


def _parser(*, whole: bool = False) -> argparse.ArgumentParser:
    """The parser of all commands by name, for help and for unknown names; ``whole``: each with its arguments."""
    top = argparse.ArgumentParser(
        prog="lesart",
        epilog=EPILOG,
        formatter_class=argparse.RawDescriptionHelpFormatter,
        description="Follow one sensor reading from the wire to the glass, and get the number right.",
    )
    top.add_argument("--version", action="version", version=f"lesart {__version__}")
    commands = top.add_subparsers(dest="command", metavar="COMMAND")
    for name, (says, with_arguments) in COMMANDS.items():
        command = commands.add_parser(name, help=says, description=description(says))
        if whole:
            with_arguments(command)
    return top
