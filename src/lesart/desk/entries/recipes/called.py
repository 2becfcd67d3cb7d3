"""What people call a signal by, beside the name of its recipe."""

ALSO = {
    "bridge": ("load cell", "scale", "strain gauge"),
    "thermistor half": ("thermistor", "NTC"),
    "platinum half": ("platinum", "platinum resistor", "Pt1000", "RTD", "RTD Pt1000"),
    "platinum half, resistance = 100 Ω": ("Pt100", "RTD Pt100"),
    "photoresistor half": ("photoresistor", "light-dependent resistor", "light sensor", "LDR"),
    "wheel's pulses": (
        "wheel",
        "fan",
        "anemometer",
        "tachometer",
        "wind speed",
        "speed sensor",
        "pulses",
        "count of pulses",
    ),
    "voltage over a divider": ("battery", "battery voltage", "divided voltage", "voltage divider", "divider"),
    "voltage on a converter": ("voltage", "analog voltage", "analog input", "ADC"),
    "thermometer in volts": ("thermometer", "temperature sensor"),
    "sensor in volts": ("pressure sensor", "pressure transducer", "pressure transmitter", "transducer", "transmitter"),
    "ratiometric sensor": ("ratiometric pressure sensor", "ratiometric transducer", "ratiometric transmitter"),
    "sensor giving": ("current sensor", "hall sensor", "hall current sensor"),
    "current over a shunt": ("shunt", "current shunt", "shunt current"),
    "pH probe": ("pH", "pH electrode", "pH sensor", "pH meter"),
    "pulses of a flow": ("flow meter", "flow sensor", "water meter"),
    "current loop": ("4 to 20 mA loop", "4 to 20 mA", "4-20 mA loop", "4-20 mA", "4-20mA loop", "4-20mA"),
    "knob": ("potentiometer", "slider"),
    "angle": ("wind vane", "vane", "wind direction", "angle sensor", "rotary position", "magnetic angle sensor"),
    "time of an echo": ("echo", "ranger", "echo ranger"),
    "share": ("moisture", "soil moisture", "fill level"),
}
"""What people call a signal by, after the recipe that is meant. Behind an article: laws and columns have such names."""
CALLED = {name.lower(): meant for meant, names in ALSO.items() for name in names}
