"""The reference of the project file, made from the records that the program itself reads by.

    python -m tools.reference docs/project-file.md

Run by ``make reference``; a test fails while the page says something else than the program.
"""

from __future__ import annotations

import sys
from collections.abc import Iterable
from pathlib import Path

from lesart.core import calm, law
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.glass import panel as panels
from lesart.core.glass.drive import PARAMETERS as SCAN
from lesart.core.glass.face import FIELD_PLACE, LABEL
from lesart.core.parameters import Parameter
from lesart.core.raw.source import CAPTURE
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.project.channels import CHANNEL, TRUE
from lesart.project.check import TOP

HEAD = """\
# The project file

A project is a folder with `lesart.toml` and its captures. The file is plain TOML: read it, change it, keep it in
version control. While Lesart is open it notices what is changed outside and takes it in. Saving keeps comments, order
and keys of your own, which start with `x_`; a misspelt key is refused, because it would silently do nothing.

Values with a unit are texts, as makers write them: `"4k7"`, `"10 kΩ"`, `"3.3V"`, `"2.5 mV/K"`, `"400 kHz"`, `"1/16"`.

*This page is made from the program by `make reference`.*
"""


def page() -> str:
    """The whole page."""
    parts = [
        HEAD,
        _section("The top", "", TOP),
        _section("A source", "[sources.NAME]", CAPTURE),
        _section("A channel", '[channels."NAME"]', CHANNEL),
        "\n## Law\n\nAny number of `[[channels.\"NAME\".law]]`, in order; the unit of each must fit the one before.\n",
        *(
            _section(f"`kind = \"{kind.name}\"`, {kind.title}", "", kind.parameters, level=3,
                     says=f"{kind.formula}. Source: {kind.source}. Example: {kind.example}.")
            for kind in law.KINDS.values()
        ),
        _section("True", '[channels."NAME".true]', TRUE),
        _section("A reference", "references = [{ … }, …]", REFERENCE, level=3),
        "\n## Calm\n\nAny number of `[[channels.\"NAME\".calm]]`, in order.\n",
        *(_section(f"`kind = \"{kind.name}\"`, {kind.title}", "", kind.parameters, level=3)
          for kind in calm.KINDS.values()),
        _section("Fit", '[channels."NAME".fit]', FIELD,
                 says="A field item on a face may state any of these itself; the rest it takes from its channel."),
        "\n## Glass\n\nA panel is described by what it is, under `[panels.NAME]`.\n",
        *(_section(f"`kind = \"{kind}\"`", "", parameters, level=3) for kind, parameters in panels.PARAMETERS.items()),
        _section("Scanned digits", "[panels.NAME.scan]", SCAN, level=3),
        "\n## A face\n\n`[faces.NAME]` with `panel = \"…\"`, and any number of `[[faces.NAME.items]]`.\n",
        _section('`kind = "label"`', "", LABEL, level=3),
        _section('`kind = "field"`', "", FIELD_PLACE, level=3),
    ]  # fmt: skip
    return "\n".join(part.strip("\n") + "\n" for part in parts)


def _section(title: str, place: str, parameters: Iterable[Parameter], *, level: int = 2, says: str = "") -> str:
    lines = [f"{'#' * level} {title}", ""]
    if place:
        lines += [f"`{place}`", ""]
    if says:
        lines += [says, ""]
    lines += ["| key | what it is | when it is not there |", "| --- | --- | --- |"]
    for parameter in parameters:
        lines.append(f"| `{parameter.name}` | {parameter.help}: {_wanted(parameter)} | {_default(parameter)} |")
    return "\n".join(lines)


def _wanted(parameter: Parameter) -> str:
    return parameter.wanted.removeprefix("it must be ").replace("|", "\\|")


def _default(parameter: Parameter) -> str:
    if parameter.default is None:
        return "*must be given*"
    shown = str(parameter.default).lower() if isinstance(parameter.default, bool) else str(parameter.default)
    return f"`{shown}`" if shown else "empty"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(page(), encoding="utf-8")
