"""The rest of the yard, away from hive 2: its channels as the project file has them."""

from __future__ import annotations

FIELD = """
# Hive 1 talks on a serial line of its own; this is what was recorded of it. o listens to it: the rig speaks for it.
[sources."hive 1"]
capture = "captures/hive-1-morning.csv"

[sources."hive 1".line]
kind = "text line"
port = "rig/scale"

[channels."hive 1 mass"]
source = "hive 1"
column = "count"
raw_unit = "ct"
unit = "kg"
lowest = "-2 kg"
highest = "120 kg"

[[channels."hive 1 mass".law]]
kind = "bridge converter"
bits = 24
gain = "128"
reference = "5 V"
excitation = "5 V"

[[channels."hive 1 mass".law]]
kind = "load cell"
capacity = "200 kg"
sensitivity = "2 mV/V"
zero = "0 mV/V"

[[channels."hive 1 mass".calm]]
kind = "mean"
samples = 8

[channels."hive 1 mass".fit]
width = 9
decimals = 1
unit_text = "kg"

# The mast is asked for its registers. Pressure is in pascals there, however often a label says hectopascals.
[sources.mast]
capture = "captures/mast-morning.csv"

[sources.mast.line]
kind = "Modbus RTU"
port = "rig/mast"
unit = 7
period = "0.5 s"

[[sources.mast.line.registers]]
name = "pressure"
table = "input"
address = 0
type = "uint32"

[[sources.mast.line.registers]]
name = "wind from"
table = "input"
address = 2
scale = "0.1"

[[sources.mast.line.registers]]
name = "wind"
table = "input"
address = 10
type = "float32"

[[sources.mast.line.registers]]
name = "air"
table = "input"
address = 3
type = "int16"
scale = "0.1"

[channels.pressure]
source = "mast"
column = "pressure"
raw_unit = "Pa"
unit = "hPa"
lowest = "950 hPa"
highest = "1070 hPa"

[[channels.pressure.law]]
kind = "sea-level pressure"
height = "212 m ± 3 m"  # of the mast

[[channels.pressure.calm]]
kind = "mean"
samples = 8

[channels.pressure.fit]
width = 9
decimals = 1
unit_text = "hPa"

[channels."wind from"]
source = "mast"
column = "wind from"
raw_unit = "°"
unit = "°"
lowest = "0 °"
highest = "360 °"

[channels."wind from".fit]
width = 9
decimals = 0
unit_text = "°"

# Two magnets on the axle of the cups close a contact: two pulses a turn, and a turn a second is 1.36 m/s of wind.
[sources.cups]
capture = "captures/mast-cups.vcd"
format = "vcd"

[sources.cups.decode]
kind = "gate count"
line = "cups"
gate = "10 s"
shortest = "2 ms"

[channels.wind]
source = "cups"
column = "count"
raw_unit = "ct"
unit = "m/s"
lowest = "0 m/s"
highest = "40 m/s"

[[channels.wind.law]]
kind = "gate rate"
gate = "10 s ± 20 ppm"
marks = "2"
per = "1/s"

[[channels.wind.law]]
kind = "linear"
input = "0 1/s"
output = "0 m/s"
slope = "1.36 m ± 3 %"  # of wind to a turn

[channels.wind.fit]
width = 9
stale_after = "25 s"
decimals = 1
unit_text = "m/s"

# The bucket tips once for a quarter of a millimetre; its contact bounces.
[sources.bucket]
capture = "captures/rain-bucket.vcd"
format = "vcd"

[sources.bucket.decode]
kind = "gate count"
line = "bucket"
gate = "600 s"
shortest = "5 ms"

[channels.rain]
source = "bucket"
column = "count"
raw_unit = "1"  # tips: none is finer than another
unit = "mm"
lowest = "0 mm"
highest = "50 mm"

[[channels.rain.law]]
kind = "linear"
input = "0"
output = "0 mm"
slope = "0.25 mm ± 4 %"  # of a bucket

[channels.rain.fit]
width = 9
stale_after = "1300 s"
decimals = 2
unit_text = "mm"

# An echo from the syrup: the pulse lasts as long as the sound is under way, there and back.
[sources.tank]
capture = "captures/syrup-tank.vcd"
format = "vcd"

[sources.tank.decode]
kind = "pulse width"
line = "echo"
least = "100 µs"
most = "20 ms"
shortest = "20 µs"

[channels."syrup below"]
source = "tank"
column = "width"
raw_unit = "s"
unit = "mm"
lowest = "20 mm"
highest = "900 mm"

[[channels."syrup below".law]]
kind = "echo"
air = "yard air"  # the tank stands outside
longest = "30 ms"

[[channels."syrup below".calm]]
kind = "median"
samples = 5

[channels."syrup below".fit]
width = 9
stale_after = "5 s"
decimals = 0
unit_text = "mm"

# Eight seconds under the lid of hive 2.
[sources."lid sound"]
capture = "captures/lid-sound.wav"
format = "wav"

[channels."lid sound"]
source = "lid sound"
column = "1"
raw_unit = "ct"
unit = "V"
lowest = "-1 V"
highest = "1 V"

[[channels."lid sound".law]]
kind = "converter"
bits = 16
signed = true
reference = "1 V ± 2 %"

[channels."lid sound".fit]
width = 9
decimals = 2
unit_text = "V"

# How loud it is there, eight times a second.
[channels."lid level"]
source = "lid sound"
column = "1"
raw_unit = "ct"
unit = "dB"
lowest = "-80 dB"
highest = "0 dB"

[[channels."lid level".law]]
kind = "converter"
bits = 16
signed = true
reference = "1 V ± 2 %"

[[channels."lid level".law]]
kind = "windowed level"
reference = "1 V"
window = "250 ms"
hop = "125 ms"

[channels."lid level".fit]
width = 9
decimals = 0
unit_text = "dB"

# The node of the mast sends counts of its own converter: the battery behind a divider, and how the stand leans.
[sources.node]
capture = "captures/mast-node.csv"
header = 1
time = "ms"
time_unit = "ms"

[channels.battery]
source = "node"
column = "battery_ct"
raw_unit = "ct"
unit = "V"
lowest = "0 V"
highest = "18 V"

[[channels.battery.law]]
kind = "converter"
reference = "3.3 V ± 1 %"
full_scale = "2^n - 1"

[[channels.battery.law]]
kind = "linear"
input = "0 V"
output = "0 V"
slope = "5.7 ± 1.6 %"  # 47 kΩ over 10 kΩ, each to 1 %

# Three decimals look exact; one count of the converter is more than four of the last.
[channels.battery.fit]
width = 9
decimals = 3
unit_text = "V"

# Three axes of an inertial sensor on the stand, 16 384 counts to the pull of the earth.
[channels."stand x"]
source = "node"
column = "x_ct"
raw_unit = "ct"
unit = "m/s²"
lowest = "-20 m/s²"
highest = "20 m/s²"

[[channels."stand x".law]]
kind = "linear"
input = "0 ct"
output = "0 m/s²"
slope = "0.000598550 m/s²/ct"

[[channels."stand x".calm]]
kind = "mean"
samples = 16

[channels."stand x".fit]
width = 9
decimals = 2
unit_text = "m/s²"

[channels."stand y"]
source = "node"
column = "y_ct"
raw_unit = "ct"
unit = "m/s²"
lowest = "-20 m/s²"
highest = "20 m/s²"

[[channels."stand y".law]]
kind = "formula"
formula = "x * g / n"
names = "g = 9.80665 m/s^2; n = 16384 ct"
from = "ct"
to = "m/s²"
lowest = "-32768 ct"
highest = "32767 ct"

[[channels."stand y".calm]]
kind = "mean"
samples = 16

[channels."stand y".fit]
width = 9
decimals = 2
unit_text = "m/s²"

# How far the stand is from plumb, by all three.
[channels."stand lean"]
source = "node"
column = "z_ct"
raw_unit = "ct"
unit = "°"
lowest = "0 °"
highest = "90 °"

[[channels."stand lean".law]]
kind = "linear"
input = "0 ct"
output = "0 m/s²"
slope = "0.000598550 m/s²/ct"

[[channels."stand lean".law]]
kind = "tilt"
of = "from plumb"
second = "stand x"
third = "stand y"

[[channels."stand lean".calm]]
kind = "mean"
samples = 16

[channels."stand lean".fit]
width = 9
decimals = 1
unit_text = "°"

# A couple of two wires in the smoker; its cold end is in the air of the yard.
[channels.smoker]
source = "node"
column = "smoker_mv"
raw_unit = "mV"
unit = "°C"
lowest = "-20 °C"
highest = "600 °C"

[[channels.smoker.law]]
kind = "thermocouple"
type = "K"
cold = "yard air"

[channels.smoker.fit]
width = 9
decimals = 0
unit_text = "°C"
"""
