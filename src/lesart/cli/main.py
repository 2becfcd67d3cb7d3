"""``lesart``: arguments are read here, with nothing heavy imported; each command's module is imported when it runs."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from importlib import import_module

from lesart.cli.arguments import COMMANDS, parser

FAULT, WRONG = 1, 2
"""Exit codes: a † note was found; wrong use or a broken project. 0 is neither."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; the exit code. A person never sees a traceback of bad input."""
    given = sys.argv[1:] if arguments is None else list(arguments)
    only = given[0] if given and given[0] in COMMANDS else None
    options = parser(only).parse_args(given)
    command = options.command or "welcome"
    from lesart.core.errors import LesartError

    try:
        module = import_module(f"lesart.cli.{ {'open': 'screen', 'welcome': 'screen'}.get(command, command) }")
        return int(module.run(options))
    except LesartError as error:
        for line in str(error).splitlines():
            print(f"lesart: {line}", file=sys.stderr)
        return WRONG
    except BrokenPipeError:
        # Whoever read our output has seen enough. Python would complain at exit when it flushes; give it a sink.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        return 130
