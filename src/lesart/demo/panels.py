"""What the yard shows its readings on: panels, pictures and faces of the project file."""

from __future__ import annotations

PANELS = """
[panels.stand]
kind = "segments"
digits = 4
colour = "red"

[panels.stand.scan]
on_time = "6 ms"
blanking = "0.1 ms"
wanted = "50 Hz"

# Its lines for half a second: one digit is cut short, another goes dark too late.
[panels.stand.trace]
capture = "captures/stand-digits.vcd"
starts_at = "1439.99 s"
digits = "d1 d2 d3 d4"
segments = "a b c d e f g dp"

[panels.door]
kind = "characters"
columns = 16
rows = 2
light = "green light"

# What the node's program does besides: it looks at the beam whenever it has nothing else to do.
[loop]
word = "8 bit"
clock = "16 MHz"
active = "14 mA"
idle = "11 mA"

[loop.tasks."count beam"]
runs = "in the loop"

# Under the lid: pixels, seen when the hive is opened.
[panels.lid]
kind = "pixels"
width = 128
height = 64
light = "white"

# Its bus while it was drawn four times, with a page that went to a wrong place.
[panels.lid.trace]
capture = "captures/lid-bus.vcd"
starts_at = "1440.05 s"
address = "0x3C"

# At the foot of the mast, where the sun shines on it.
[panels.mast]
kind = "pixels"
width = 84
height = 48
light = "grey"
pitch = "0.36 mm"
bus = "four-wire"
clock = "2 MHz"
low_lights = true

[pictures.leaf]
file = "pictures/leaf.png"
width = 20

# One digit tells how many went through the gate: digit by digit, dark between them.
[panels.gate]
kind = "segments"
digits = 1
colour = "amber"
drive = "direct"

[faces.mass]
panel = "stand"

[[faces.mass.items]]
kind = "field"
channel = "hive 2 mass"
width = 4

[faces.both]
panel = "door"

[[faces.both.items]]
kind = "label"
text = "hive 2"

[[faces.both.items]]
kind = "field"
channel = "hive 2 mass"
column = 8
width = 8
unit_text = "kg"

[[faces.both.items]]
kind = "label"
text = "lid"
row = 1

[[faces.both.items]]
kind = "field"
channel = "lid air"
row = 1
column = 8
width = 8

[faces.lid]
panel = "lid"

[[faces.lid.items]]
kind = "label"
text = "HIVE 2"

[[faces.lid.items]]
kind = "field"
channel = "lid air"
column = 87
width = 7

[[faces.lid.items]]
kind = "box"
row = 10
width = 128

[[faces.lid.items]]
kind = "field"
channel = "hive 2 mass"
row = 16
column = 8
width = 6
font = "numerals 21"

[[faces.lid.items]]
kind = "label"
text = "kg"
row = 26
column = 112
font = "text 10"

[[faces.lid.items]]
kind = "trend"
channel = "hive 2 mass"
row = 42
width = 128
tall = 21
span = "20 min"

[faces.mast]
panel = "mast"
seen_from = "0.5 m"

[[faces.mast.items]]
kind = "picture"
picture = "leaf"
row = 2
column = 62

[[faces.mast.items]]
kind = "field"
channel = "wind"
row = 1
column = 2
width = 4
decimals = 1
unit_text = ""
font = "text 10"

[[faces.mast.items]]
kind = "label"
text = "m/s"
row = 4
column = 44

[[faces.mast.items]]
kind = "dial"
channel = "wind"
row = 18
column = 2
width = 49
tall = 25
highest = "20 m/s"

[[faces.mast.items]]
kind = "bubble"
across = "stand x"
up = "stand y"
row = 26
column = 62
width = 20
tall = 20
across_from = "-3 m/s²"
across_to = "3 m/s²"
up_from = "-3 m/s²"
up_to = "3 m/s²"

[faces.gate]
panel = "gate"

[[faces.gate.items]]
kind = "field"
channel = "entrance"
width = 3
moves = "digits in turn"
step_time = "0.6 s"
gap_time = "0.2 s"
pause_time = "1.5 s"
"""
