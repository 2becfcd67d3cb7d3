"""Values that parts of the trade usually have, each by what it is: round ones of data sheets and of preferred series.

Where a stated value does not explain a reading, these are tried first.
"""

from __future__ import annotations

BITS = (8, 10, 11, 12, 13, 14, 15, 16, 18, 20, 24, 32)
"""Bits of converters and of the words they send."""
REFERENCES = (
    "1.024 V",
    "1.1 V",
    "1.2 V",
    "1.25 V",
    "1.8 V",
    "2.048 V",
    "2.5 V",
    "3 V",
    "3.3 V",
    "4.096 V",
    "5 V",
    "10 V",
)
"""Reference voltages of converters, bridges and dividers."""
GAINS = ("1", "2", "4", "8", "16", "32", "64", "128")
BETAS = ("3380 K", "3435 K", "3492 K", "3600 K", "3750 K", "3950 K", "3977 K", "4050 K", "4250 K")
RESISTANCES = ("1 kΩ", "2 kΩ", "2.2 kΩ", "3 kΩ", "4.7 kΩ", "5 kΩ", "10 kΩ", "20 kΩ", "47 kΩ", "50 kΩ", "100 kΩ")
"""Nominal resistances of thermistors, and of the resistors in series with them."""
SENSITIVITIES = ("0.5 mV/V", "1 mV/V", "1.5 mV/V", "2 mV/V", "3 mV/V")
CLOCKS = (
    "32.768 kHz",
    "1 MHz",
    "2 MHz",
    "4 MHz",
    "8 MHz",
    "12 MHz",
    "16 MHz",
    "20 MHz",
    "24 MHz",
    "48 MHz",
    "64 MHz",
    "72 MHz",
    "80 MHz",
)
PRESCALERS = (1, 2, 4, 8, 16, 32, 64, 128, 256, 1024)
TIMER_BITS = (8, 16, 24, 32)
GATES = ("100 ms", "250 ms", "500 ms", "1 s", "2 s", "5 s", "10 s", "15 s", "30 s", "60 s", "600 s")
MARKS = ("1", "2", "3", "4", "5", "6", "7", "8", "10", "12", "16", "20", "24", "30", "36", "60")
"""Pulses per turn."""
