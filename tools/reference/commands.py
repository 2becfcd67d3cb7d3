"""The commands, as ``--help`` tells of them."""

from __future__ import annotations

from tools.reference.columns import columns

from lesart.cli.arguments.commands import COMMANDS
from lesart.cli.arguments.reading import command_parser

COLUMNS = 100
HEAD = """\
# Commands

Everything that is done on the screen can be done in a shell, and all that it prints can be had as JSON.

- Options may stand anywhere. A number below zero is not taken for one: `--raw -4.5`.
- Exit code 0: no fault. 1: a note marked † was found. 2: wrong use, or a folder that is not a project. 3: Lesart itself
  went wrong; a sentence says where its report is.
- JSON answers are objects that say their version first, `"lesart": 1`, and hold neither NaN nor infinity.
- A file that is there is replaced only with `--force`, one that the project reads never.
- What comes from files is never obeyed by the terminal: control characters are printed as `\\x1b`.
- `lesart completion bash` (or `zsh`, `fish`, `tcsh`) prints what makes the shell complete commands and options.

*This page is made from the program by `make reference`.*
"""


def page() -> str:
    """One section a command."""
    with columns(COLUMNS):
        sections = [f"## {name}\n\n```text\n{command_parser(name).format_help().rstrip()}\n```\n" for name in COMMANDS]
    return "\n".join([HEAD, *sections])
