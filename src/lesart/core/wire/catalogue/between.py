"""Parts that a connection runs through. They have no pins of their own: a connection names them."""

from __future__ import annotations

from lesart.core.parameters import Parameter
from lesart.core.wire.part import PartKind


def ohms(name: str, title: str, says: str, default: str | None = None) -> Parameter:
    """A parameter for a resistance above 0."""
    return Parameter(name, title, "quantity", says, default, unit="Ω", lowest=0, above=True, highest=1e9)


_TOLERANCE = Parameter("tolerance", "tolerance", "quantity", "as printed", "5 %", unit="%", lowest=0, highest=50)
_POWER = Parameter(
    "power", "rating", "quantity", "power it can take", "0.25 W", unit="W", lowest=0, above=True, highest=1000
)

BETWEEN = (
    PartKind(
        "resistor",
        "a resistor; to a rail it is a pull-up or the fixed half of a divider",
        "between",
        parameters=(
            ohms("resistance", "resistance", "of each, where it is in several connections"),
            _POWER,
            _TOLERANCE,
        ),
    ),
    PartKind(
        "divider",
        "two resistors that bring a voltage down",
        "between",
        parameters=(
            ohms("upper", "upper", "towards the higher voltage"),
            ohms("lower", "lower", "towards ground"),
            _TOLERANCE,
        ),
    ),
    PartKind(
        "filter",
        "a resistor in the line and a capacitor to ground",
        "between",
        parameters=(
            ohms("resistance", "resistance", "in the line"),
            Parameter("capacitance", "capacitance", "quantity", "to ground", unit="F", lowest=0, above=True, highest=1),
        ),
    ),
    PartKind(
        "level shifter",
        "one channel a line between two levels, both ways",
        "between",
        parameters=(ohms("pull_up", "pull-up", "built in at both sides of each channel", "10 kΩ"),),
    ),
    PartKind(
        "transistor",
        "switches what a pin cannot carry itself",
        "between",
        parameters=(
            ohms("resistance", "base resistor", "between the pin and the transistor", "1 kΩ"),
            Parameter(
                "current",
                "most current",
                "quantity",
                "that it switches",
                "500 mA",
                unit="A",
                lowest=0,
                above=True,
                highest=100,
            ),
        ),
    ),
)
