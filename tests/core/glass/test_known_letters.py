"""How wide a panel of letters is: by where programs put their lines, since what is beyond the glass is written too."""

from __future__ import annotations

import pytest

from lesart.core.glass.bus.controllers import CONTROLLERS
from lesart.core.glass.bus.known_displays import known_displays
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.edge_writer import parallel
from lesart.core.raw.talks.recognise import recognise

assert "letters" in CONTROLLERS
START = b"\x33\x32\x28\x0c\x01\x06"


def _shape(texts: list[tuple[int, bytes]]) -> str:
    """What is found where texts are written at addresses, after a clear, twice over."""
    told = [(0.01 + 0.01 * place, Transmission(bytes((each,)), False)) for place, each in enumerate(START)]
    t = 0.2
    for _ in range(2):
        for address, text in texts:
            told += [(t, Transmission(bytes((0x80 | address,)), False)), (t + 1e-3, Transmission(text, True))]
            t += 0.05
    lines = parallel(told, 4, 50e-6, t + 0.1)
    (found,) = [display for talk in recognise(lines) for display in known_displays(talk, lines)]
    return f"{found.panel['columns']}×{found.panel['rows']}"


@pytest.mark.parametrize(("texts", "wanted"), [
    # The memory of a panel of four lines goes on from the first in the third: by 16 or by 20.
    ([(0x00, b"Hive 2"), (0x40, b"42.50 kg"), (0x14, b"lid"), (0x54, b"34.5")], "20×4"),
    ([(0x00, b"Hive 2"), (0x40, b"42.50 kg"), (0x10, b"lid"), (0x50, b"34.5")], "16×4"),
    ([(0x00, b"Syrup left    31.0 L"), (0x40, b"Gate"), (0x14, b"lid  34.5 \xdfC")], "20×4"),
    ([(0x00, b"Syrup left    31.0 L"), (0x40, b"Gate          12")], "20×2"),
    ([(0x00, b"Hive 2"), (0x40, b"42.50 kg")], "16×2"),
    ([(0x00, b"Hive 2")], "16×1"),
    # Blanks beyond the glass wipe a line, whatever its length.
    ([(0x00, b"Hive 2".ljust(40)), (0x40, b"42.50 kg".ljust(40))], "16×2"),
    # The whole memory at once, two lines in each part of it.
    ([(0x00, b"Hive 2".ljust(20) + b"lid 34.5 C     62 %."), (0x40, b"42.50 kg".ljust(20) + b"gate  12 a minute ok")], "20×4"),
    ([(0x00, b"a line of forty letters goes over it all"), (0x40, b"and one more of as many stands below it.")], "20×4"),
    # A text in the middle of the third line begins nowhere in particular.
    ([(0x00, b"Hive 2"), (0x40, b"42.50 kg"), (0x14, b"lid"), (0x1C, b"34.5 \xdfC")], "20×4"),
])  # fmt: skip
def test_the_size_of_a_panel_of_letters(texts: list[tuple[int, bytes]], wanted: str) -> None:
    assert _shape(texts) == wanted
