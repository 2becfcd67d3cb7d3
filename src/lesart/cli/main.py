"""``lesart``: arguments are read here, with nothing heavy imported; each command's module is imported when it runs."""

from __future__ import annotations

import gc
import sys
import warnings
from collections.abc import Sequence
from importlib import import_module

from lesart.cli.arguments.reading import read_arguments
from lesart.cli.printed.outlet import give_up_output, outlets

FAULT, WRONG, MISTAKEN = 1, 2, 3
"""Exit codes: a † note was found; wrong use or a broken project; Lesart itself went wrong. 0 is none of them."""

COLLECT_AFTER = 50_000, 20, 100
"""Objects between garbage collections.

With the default of 700 Python goes through everything imported a hundred times during imports: a fifth of the time
until there is a screen.
"""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; the exit code. A person never sees a traceback."""
    gc.set_threshold(*COLLECT_AFTER)
    if not sys.warnoptions:
        # Warnings for programmers would clutter the screen; python -W default -m lesart shows them.
        warnings.simplefilter("ignore")
    given = sys.argv[1:] if arguments is None else list(arguments)
    with outlets():
        try:
            code = _run(given)
            sys.stdout.flush()
            return code
        except BrokenPipeError:  # whoever read our output has seen enough
            give_up_output()
            return 0


def _run(given: Sequence[str]) -> int:
    options = read_arguments(given)
    command = options.command or "welcome"
    from lesart.core.errors import LesartError

    try:
        module = import_module(f"lesart.cli.{ {'open': 'screen', 'welcome': 'screen'}.get(command, command) }")
        return int(module.run(options))
    except LesartError as error:
        return _said(str(error), WRONG)
    except BrokenPipeError:
        raise
    except KeyboardInterrupt:
        return 130
    except Exception as error:  # noqa: BLE001  (what nobody thought of ends in a sentence and a report as well)
        from lesart.desk.report import temporary_report

        return _said(temporary_report(error), MISTAKEN)


def _said(sentences: str, code: int) -> int:
    """Report what went wrong; where even that cannot be written only the exit code is left."""
    from lesart.core.errors import StorageError

    try:
        for line in sentences.splitlines():
            print(f"lesart: {line}", file=sys.stderr)
        sys.stderr.flush()
    except StorageError:
        pass
    return code
