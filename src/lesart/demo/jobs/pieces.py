"""Hook-ups and faces shared by several jobs, as the project file has them."""

from __future__ import annotations

from collections.abc import Mapping


def wire(parts: Mapping[str, str], joins: str) -> str:
    """Parts by name as lines of TOML; joins as ``a.x > b.y through r``, with ``;`` between."""
    tables = "".join(f'[parts."{name}"]\n{lines}\n' for name, lines in parts.items())
    lines = []
    for each in joins.split(";"):
        if each.strip():
            ends, _, through = each.partition(" through ")
            pin, _, to = ends.partition(">")
            way = f', through = "{through.strip()}"' if through else ""
            lines.append(f'  {{ pin = "{pin.strip()}", to = "{to.strip()}"{way} }},')
    return tables + "[wire]\njoins = [\n" + "\n".join(lines) + "\n]\n"


BOARD_3V3 = 'kind = "3.3 V board"'
BOARD_5V = 'kind = "5 V board"'
LARGE = 'kind = "large 3.3 V board"'
SEGMENTS = ("a", "b", "c", "d", "e", "f", "g")


def digits(name: str, before: str = "r", switch: str = "t", *, first: int = 1) -> str:
    """Four digits on a board: segments through resistors, digit lines through transistors."""
    segments = ";".join(
        f"{name}.{each} > board.p{first + place} through {before}" for place, each in enumerate(SEGMENTS)
    )
    lines = ";".join(f"{name}.digit {each} > board.p{first + 7 + each} through {switch}" for each in range(1, 5))
    return f"{segments};{lines};"


def fed(*names: str, rail: str = "board.3V3") -> str:
    """Supply and ground of parts."""
    return "".join(f"{name}.supply > {rail}; {name}.gnd > board.gnd;" for name in names)


CSV = """
[sources.log]
capture = "bench.csv"
header = 1
time = "t"
"""


def channel(name: str, unit: str, low: str, high: str, column: str, **more: str) -> str:
    """A channel of a log; ``more`` are keys of its table."""
    lines = "".join(f"{key} = {value}\n" for key, value in more.items())
    return (
        f'[channels.{name}]\nsource = "log"\ncolumn = "{column}"\nunit = "{unit}"\nlowest = "{low} {unit}"\n'
        f'highest = "{high} {unit}"\n{lines}'
    ).replace(' 1"\n', '"\n')


def face(panel: str, *items: str) -> str:
    """A face with items, each as lines of its table."""
    return f'[faces.{panel}]\npanel = "{panel}"\n' + "".join(f"[[faces.{panel}.items]]\n{item}\n" for item in items)


def field(name: str, **more: str) -> str:
    """A field of a channel."""
    return f'kind = "field"\nchannel = "{name}"\n' + "".join(f"{key} = {value}\n" for key, value in more.items())


def label(text: str, **more: str) -> str:
    """A label."""
    return f'kind = "label"\ntext = "{text}"\n' + "".join(f"{key} = {value}\n" for key, value in more.items())
