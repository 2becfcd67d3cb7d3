"""The reference of the project file."""

from __future__ import annotations

from collections.abc import Iterable

from lesart.core import calm, law
from lesart.core.calm.alarm import ALARM
from lesart.core.fit.field import PARAMETERS as FIELD
from lesart.core.glass.bus.controller import COMMAND, CONTROLLER
from lesart.core.glass.bus.controllers import CONTROLLERS
from lesart.core.glass.faces.face import FACE
from lesart.core.glass.faces.items import ITEMS
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.glass.panels.scan import PARAMETERS as SCAN
from lesart.core.pace.task import SETTINGS, TASK
from lesart.core.pace.trace import BUS_TRACE, DIGITS_TRACE
from lesart.core.pack.settings import OF_CHANNEL as CHANNEL_PACK
from lesart.core.pack.settings import SETTINGS as PACK
from lesart.core.parameters import Parameter
from lesart.core.raw.decode import KINDS as DECODERS
from lesart.core.raw.heard_registers import HEARD_REGISTER
from lesart.core.raw.lines.line import BUS_REGISTER, LINES, REGISTER
from lesart.core.raw.messages.frames import FIELD as FRAME_FIELD
from lesart.core.raw.source import DECODE, FORMAT, FORMATS, OF_FORMAT
from lesart.core.true.reference import PARAMETERS as REFERENCE
from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.hookup import JOIN
from lesart.core.wire.part import KIND_TABLE, PIN_TABLE, PartKind
from lesart.core.wire.role import ROLES
from lesart.core.wire.sums import SUMS
from lesart.project.assets.font_files import FONT_FILE
from lesart.project.assets.shown_picture import PICTURE_FILE
from lesart.project.check import TOP
from lesart.project.tables.channels import CHANNEL
from lesart.project.tables.corrections import TRUE
from lesart.project.tables.sources import line_parameters
from lesart.project.tables.sums import SUM

FORMAT_SAYS = {
    "json lines": "An object a line; numbers in inner objects are columns like `outer.inner`.",
    "json": "One document: a list of objects, a list of rows, lists by name, objects by moment.",
    "parquet": "Columns of numbers, moments, durations and texts.",
    "spreadsheet": "`.xlsx`, `.ods` and their kin; names and units are found in the rows above the numbers.",
    "text log": "Lines with a time before them or not, and numbers with names, like `T=21.5 H=60`, colours left out. "
    "The column of the times is called `time`.",
    "sentences": "The NMEA 0183 form, `$ttkkk,field,…*hh`, its sums checked. What the usual kinds say has names, as "
    "`latitude`; of others each field is a column, as `ARD 1`. The time is called `universal time`.",
    "arrays": "`.npy` and `.npz`; records, columns of a table, arrays by name.",
    "sound": "AIFF, and WAV of compressed codings; the channels are columns 1, 2, ….",
    "binary": 'Bare numbers one behind the other. `lesart new FILE --layout "int16, 2 columns, 1 kHz"` writes these '
    "keys.",
    "wav": "8, 16, 24 and 32 bits and floating point; the channels are columns 1, 2, ….",
    "vcd": "A value change dump, IEEE 1364. Without a decoder each signal is a column of its levels.",
    "hex": "A frame a line: a time in seconds, then bytes in hexadecimal; `#` begins a comment.",
    "recording": "What Lesart wrote down itself: numbers by commas behind four lines of head. It is the format of a "
    "source with a line, and need not be said there.",
}
HEAD = """\
# The project file

A project is a folder with `lesart.toml` and its captures. The file is plain TOML: read it, change it, keep it in
version control. While Lesart is open it notices what is changed outside and takes it in. Saving keeps comments, order
and keys of your own, which start with `x_`; a misspelt key is refused, because it would silently do nothing.

A table of a channel, a part, a panel or a face may say which of its values nobody has said yet, as a recipe leaves
them: `assumed = "bits, reference"`. They count like all others; each has a remark until the word is gone.

Values with a unit are texts, as makers write them: `"4k7"`, `"10 kΩ"`, `"3.3V"`, `"2.5 mV/K"`, `"400 kHz"`, `"1/16"`.

*This page is made from the program by `make reference`.*
"""


WEIGHTS = (
    "Every fit is weighted least squares of the known values on the indicated ones. A reference weighs 1 ÷ "
    "(tolerance² ÷ 3 + `spread`² ÷ `count`): the inverse variance of its known value, even between its ends, and of "
    "the mean beside it. One without a tolerance, or without a spread, has the median of the others, and where none "
    "has either all weigh the same."
)


OWN_RULES = (
    "Beside these it takes every key of `[channels.NAME.fit]`. What it states holds for this field alone, so a reading "
    "may stand in °C on one row and in °F on the next, each with its own text, decimals and width; what it does not "
    "state is the channel's."
)


def page() -> str:
    """The whole page."""
    parts = [
        HEAD,
        _section("The top", "", TOP),
        *_sources(),
        *_wire(),
        _section("A channel", '[channels."NAME"]', CHANNEL),
        '\n## Law\n\nAny number of `[[channels."NAME".law]]`, in order; the unit of each must fit the one before. '
        'Every number may be written with how far it can be off, `"3.3 V ± 1 %"` or `"0 °C ± 0.5 °C"`; that goes '
        "into the error budget. Where a law takes the name of a channel in place of a number, it reads what that "
        "channel last said at or before each sample.\n",
        *(
            _section(
                f'`kind = "{kind.name}"`, {kind.title}',
                "",
                kind.parameters,
                level=3,
                says=f"{kind.formula}. Source: {kind.source}. Example: {kind.example}.",
            )
            for kind in law.KINDS.values()
        ),
        '\n## Variants\n\nOther ways to read a channel: `[channels."NAME".variants."β"]` with any of `law`, '
        "`true`, `calm`, `fit` and `alarms` of its own, written as in the channel. What it does not state is the "
        "channel's.\n",
        _section("True", '[channels."NAME".true]', TRUE, says=WEIGHTS),
        _section("A reference", "references = [{ … }, …]", REFERENCE, level=3),
        '\n### Calibrations from before\n\n`[channels."NAME".calibrations."spring"]` with `kind`, `degree` and '
        "`references`, written as the adopted one.\n",
        '\n## Calm\n\nAny number of `[[channels."NAME".calm]]`, in order. What each computes: x is the good sample '
        "that comes, t its time, y what goes out. Where nothing else is said a bad sample passes with its mark and "
        "leaves what is kept as it was.\n",
        *(
            _section(f'`kind = "{kind.name}"`, {kind.title}', "", kind.parameters, level=3, says=kind.computes)
            for kind in calm.KINDS.values()
        ),
        _section("An alarm", '[[channels."NAME".alarms]]', ALARM),
        _section(
            "Fit",
            '[channels."NAME".fit]',
            FIELD,
            says="A field item on a face may state any of these itself; the rest it takes from its channel.",
        ),
        "\n## Glass\n\nA panel is described by what it is, under `[panels.NAME]`.\n",
        *(_section(f'`kind = "{kind.name}"`', "", kind.parameters, level=3) for kind in PANELS.values()),
        _section("Scanned digits", "[panels.NAME.scan]", SCAN, level=3),
        '\n### Glyphs of one\'s own\n\n`[panels.NAME.glyphs]` with a letter for each: `"♥" = '
        '".#.#./#####/#####/.###./..#.."`, rows of five dots, on panels of characters; `"k" = "e f g"`, segments '
        "by name, on the others. Of characters a panel has room for eight.\n",
        "\n### Character sets of one's own\n\n`[charsets.NAME]` with a drawing for each code: "
        '`0x41 = ".###./#...#"`. `+` on the leaf *panel* of Glass takes them from a BDF font.\n',
        _section(
            "A font of one's own",
            "[fonts.NAME]",
            FONT_FILE,
            says="For pixel panels. A font that cannot be read is stood in for by `text 7`, and a note says why.",
        ),
        _section(
            "A picture",
            "[pictures.NAME]",
            PICTURE_FILE,
            says="What cannot be read is stood in for by a crossed box, and a note says why.",
        ),
        _section("A face", "[faces.NAME]", FACE, says="With any number of `[[faces.NAME.items]]`."),
        *(
            _section(f'`kind = "{kind}"`', "", parameters, level=3, says=OWN_RULES if kind == "field" else "")
            for kind, parameters in ITEMS.items()
        ),
        "\n## Pace\n",
        _section("The pack", "[pack]", PACK, level=3, says="The processor that firmware is written for."),
        _section(
            "A channel in the pack",
            "[channels.NAME.pack]",
            CHANNEL_PACK,
            level=3,
            says="A variant computed in whole numbers shows on the glass what the firmware will show.",
        ),
        _section("The loop", "[loop]", SETTINGS, level=3, says="What the firmware runs on, and the limits of Pace."),
        _section(
            "A task",
            '[loop.tasks."NAME"]',
            TASK,
            level=3,
            says="Tasks are made from the project. What is written here overrules one; a new name adds one.",
        ),
        _section(
            "A trace of a bus",
            "[panels.NAME.trace]",
            BUS_TRACE,
            level=3,
            says="Of panels that are not scanned. `lesart trace` writes what the model would give.",
        ),
        _section("A trace of scanned digits", "[panels.NAME.trace]", DIGITS_TRACE, level=3),
        _section(
            "A controller of one's own",
            "[controllers.NAME]",
            CONTROLLER,
            level=3,
            says=f"Built in are {', '.join(f'`{name}`' for name in CONTROLLERS)}.",
        ),
        _section(
            "Its commands",
            "[[controllers.NAME.commands]]",
            COMMAND,
            level=3,
            says="Those with fewer free bits are looked for first.",
        ),
    ]
    return "\n".join(part.strip("\n") + "\n" for part in parts)


def _sources() -> list[str]:
    """Sources by the format of their capture, decoders, fields of frames."""
    shared = "Beside these a source may say its `format`; every other format asks for what stands below it."
    return [
        _section("A source", "[sources.NAME]", (FORMAT, *OF_FORMAT["csv"]), says=shared),
        *(
            _section(f'`format = "{name}"`', "", OF_FORMAT[name], level=3, says=FORMAT_SAYS[name])
            for name in FORMATS
            if name != "csv"
        ),
        "\n### Decoders\n\n`[sources.NAME.decode]` with its `kind`, for a trace of edges. Each signal it reads is "
        "named under what it is for. A dump of frames has the check only.\n",
        *(
            _section(
                f'`kind = "{kind.name}"`',
                "",
                (*line_parameters(kind), *kind.parameters),
                level=4,
                says=f"{kind.title[0].upper()}{kind.title[1:]}: {kind.says}. It gives "
                f"{'columns' if kind.gives_values else 'frames'}.",
            )
            for kind in DECODERS.values()
        ),
        _section(
            "The check of frames", "", DECODE, level=4, says="Beside the parameters of a decoder that gives frames."
        ),
        _section(
            "A field of a frame",
            "[[sources.NAME.fields]]",
            FRAME_FIELD,
            level=3,
            says="Each field is a column that a channel can read.",
        ),
        _section(
            "A register that was heard",
            "[[sources.NAME.registers]]",
            HEARD_REGISTER,
            level=3,
            says="A value in the messages of a field bus, in a trace or a dump: a column that a channel can read, "
            "beside those of the bare registers.",
        ),
        "\n### Lines\n\n`[sources.NAME.line]` with its `kind`: where the source is listened to. `o` listens, `r` "
        "records; the last recording is the `capture` of the source.\n",
        *(
            _section(
                f'`kind = "{kind.name}"`',
                "",
                kind.parameters,
                level=4,
                says=f"{kind.title[0].upper()}{kind.title[1:]}: {kind.says}.",
            )
            for kind in LINES.values()
        ),
        _section(
            "A register",
            "[[sources.NAME.line.registers]]",
            REGISTER,
            level=4,
            says="Of the Modbus kinds; each is a column that a channel can read.",
        ),
        _section(
            "A register on two wires",
            "[[sources.NAME.line.registers]]",
            BUS_REGISTER,
            level=4,
            says="Of the two-wire bus of this computer; each is a column that a channel can read.",
        ),
    ]


def _wire() -> list[str]:
    """The hook-up: parts, kinds of one's own, connections, sums, measured values."""
    parts = [
        "\n## Parts\n\n`[parts.NAME]` with its `kind`, one of those below or of your own, and what that kind asks for. "
        "A part with bus addresses may have an `address`, one that its straps can set.\n",
        "| kind | what it is | pins |\n| --- | --- | --- |",
    ]
    parts += [f"| `{kind.name}` | {kind.says} | {_pins(kind)} |" for kind in KINDS.values()]
    asked: dict[tuple[Parameter, ...], list[str]] = {}
    for kind in KINDS.values():
        if kind.parameters:
            asked.setdefault(kind.parameters, []).append(f'`"{kind.name}"`')
    parts += [_section(f"`kind` {', '.join(names)}", "", each, level=3) for each, names in asked.items()]
    parts += [
        _section(
            "A kind of your own",
            "[kinds.NAME]",
            KIND_TABLE,
            says=(
                'Beside these `addresses = ["0x3C", …]`, `orders`, a list of the orders in which its modules print '
                "their pins, and `pins`. `lesart wire --kind NAME` prints one of the catalogue to start from."
            ),
        ),
        _section(
            "A pin",
            'pins = [{ name = "out", role = "analog out" }, …]',
            PIN_TABLE,
            level=3,
            says=(f"Its `role` is one of these, or a list of them: {', '.join(f'`{role}`' for role in ROLES)}."),
        ),
        _section("A connection", "[wire]\njoins = [{ … }, …]", JOIN),
        "\n## What was measured\n\n`[wire.measured]`, one line a check of the bring-up list: "
        '`"node.3V3 volts" = "3.31 V"`, or `"yes"` and `"no"`.\n',
        "\n## Sums\n\n`[sums.NAME]` with its `kind`.\n",
        _section("Every sum", "", SUM, level=3),
        *(
            _section(
                f'`kind = "{kind.name}"`',
                "",
                kind.parameters,
                level=3,
                says=f"{kind.says[0].upper()}{kind.says[1:]}. {kind.formula}. Source: {kind.source}.",
            )
            for kind in SUMS.values()
        ),
    ]
    return _with_table_together(parts)


def _with_table_together(parts: list[str]) -> list[str]:
    """Lines of a table may have no blank line between them."""
    together: list[str] = []
    for part in parts:
        if part.startswith("|") and together and together[-1].startswith("|"):
            together[-1] += f"\n{part}"
        else:
            together.append(part)
    return together


def _pins(kind: PartKind) -> str:
    names = [pin.name for pin in kind.pins]
    if kind.group == "board":
        first, last = (
            next(name for name in order if name[0] == "p" and name[1:].isdigit()) for order in (names, names[::-1])
        )
        others = [name for name in names if not (name[0] == "p" and name[1:].isdigit())]
        return f"{', '.join(others)}, {first} to {last}"
    return ", ".join(names) or "none; a connection runs through it"


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
    if parameter.default is None and parameter.optional:
        return "not known"
    if parameter.default is None:
        return "*must be given*"
    shown = str(parameter.default).lower() if isinstance(parameter.default, bool) else str(parameter.default)
    return f"`{shown}`" if shown else "empty"
