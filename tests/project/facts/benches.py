"""A bench on which every kind of fact has a home."""

from __future__ import annotations

BENCH = """lesart = 1
name = "bench"

[sources.wheel]
capture = "wheel.vcd"
format = "vcd"
[sources.wheel.decode]
kind = "gate count"
line = "w"
gate = "2 s"

[sources.echo]
capture = "echo.vcd"
format = "vcd"
[sources.echo.decode]
kind = "timer ticks"
line = "e"
clock = "8 MHz"
prescaler = 64
bits = 15

[sources.log]
capture = "bench.csv"
header = 1
rate = "1 Hz"

[channels.turns]
source = "wheel"
column = "count"
unit = "1/min"
lowest = "0 1/min"
highest = "600 1/min"
[[channels.turns.law]]
kind = "gate rate"
per = "1/min"

[channels.pulse]
source = "echo"
column = "ticks"
unit = "s"
lowest = "0 s"
highest = "1 s"
[[channels.pulse.law]]
kind = "timer ticks"

[channels.room]
source = "log"
column = "raw"
part = "ntc"
unit = "°C"
lowest = "-40 °C"
highest = "100 °C"
[[channels.room.law]]
kind = "converter"
[[channels.room.law]]
kind = "half of a divider"
part = "fix"
[[channels.room.law]]
kind = "thermistor by beta"

[channels.load]
source = "log"
column = "bridge"
part = "amp"
unit = "kg"
lowest = "0 kg"
highest = "50 kg"
[[channels.load.law]]
kind = "bridge converter"
[[channels.load.law]]
kind = "load cell"
capacity = "50 kg"
sensitivity = "2 mV/V"

[panels.seg]
kind = "segments"
[panels.seg.scan]
[panels.one]
kind = "segments"
digits = 1
drive = "direct"
[panels.lid]
kind = "pixels"
[panels.lid.trace]
capture = "lid.vcd"
address = "0x3D"
[panels.door]
kind = "characters"

[parts.board]
kind = "3.3 V board"
rails_within = "2 %"
converter_bits = 12
bus_clock = "400 kHz"
[parts.cell]
kind = "battery"
voltage = "5 V"
capacity = "3 Ah"
usable = "70 %"
[parts.ntc]
kind = "thermistor"
resistance = "4.7 kΩ"
[parts.fix]
kind = "resistor"
resistance = "10 kΩ"
[parts.amp]
kind = "bridge amplifier"
[parts.bridge]
kind = "load cell"
[parts.seg]
kind = "four digits"
forward = "1.9 V"
current = "4 mA"
[parts.before]
kind = "resistor"
resistance = "330 Ω"
[parts.in_line]
kind = "resistor"
resistance = "47 Ω"
[parts.one]
kind = "one digit"
[parts.lid]
kind = "two-wire pixel display"
address = "0x3D"
[parts.door]
kind = "two-wire character display"
[parts.pulls]
kind = "resistor"
resistance = "4.7 kΩ"

[sums.before]
kind = "lamp resistor"
[sums.fix]
kind = "thermistor half"
[sums.half]
kind = "fixed half"
part = "fix"
[sums.cell]
kind = "battery hours"
[sums.pulls]
kind = "pull-ups"

[wire]
joins = [
  { pin = "cell.+", to = "board.in" },
  { pin = "cell.−", to = "board.gnd" },
  { pin = "ntc.1", to = "board.a1" },
  { pin = "ntc.2", to = "board.gnd" },
  { pin = "board.a1", to = "board.3V3", through = "fix" },
  { pin = "amp.supply", to = "board.3V3" },
  { pin = "amp.gnd", to = "board.gnd" },
  { pin = "bridge.E+", to = "amp.E+" },
  { pin = "seg.a", to = "board.p1", through = "before" },
  { pin = "seg.digit 1", to = "board.p9", through = "in_line" },
  { pin = "lid.supply", to = "board.3V3" },
  { pin = "lid.gnd", to = "board.gnd" },
  { pin = "lid.data", to = "board.p15" },
  { pin = "lid.clock", to = "board.p16" },
  { pin = "door.data", to = "board.p15" },
  { pin = "board.p15", to = "board.3V3", through = "pulls" },
]
"""
