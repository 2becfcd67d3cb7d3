"""Every figure of step 8: how it is computed, and what it is compared with."""

from __future__ import annotations

import re

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class Rule:
    """``name`` is that of its verdicts, with … for the variable part; ``limit`` is empty where it has none."""

    name: str
    unit: str
    works_out: str
    limit: str = ""

    def is_of(self, verdict: str) -> bool:
        """True where a verdict of this name follows it."""
        return re.fullmatch(re.escape(self.name).replace("…", ".+"), verdict) is not None


RULES: tuple[Rule, ...] = (
    # The loop, played event by event.
    Rule(
        "processor at work",
        "%",
        "time spent in tasks ÷ time played; where tasks want more than there is, what they want",
        "100 %",
    ),
    Rule("played only for", "s", "where there is more to play than is worth waiting for"),
    Rule("…, left out", "%", "runs that were due again before they ran ÷ all runs", "none"),
    Rule("…, missed", "%", "pulses that rise and fall within one stretch of other work ÷ all pulses", "none"),
    Rule("read …, apart by", "s", "least time between two readings of a source", "its least interval, less a little"),
    Rule(
        "… in use",
        "%",
        "time its transfers take ÷ time played; nine clocks a byte on two wires, eight on four",
        "[loop] most_bus",
    ),
    Rule("… left for sensors", "%", "1 − what drawing takes of a bus"),
    Rule(
        "pictures of … at most",
        "/s",
        "1 ÷ time of one drawing: its bytes over the bus",
        "as often as its face is drawn",
    ),
    Rule("…, bytes a drawing", "B", "bytes of the whole frame"),
    Rule("…, only what changes", "B", "bytes under the boxes of the items that show readings"),
    Rule("… empty, each time", "ms", "from the display being cleared until it is written again", "10 ms"),
    Rule(
        "… to …",
        "ms",
        "from the start of a reading until the first drawing that shows it is done, plus the lag of filters and "
        "windows; the worst of all played",
        "[loop] most_lag, or the channel's",
    ),
    Rule(
        "… on …, at most old", "ms", "from the start of a reading until the next drawing takes its place, plus that lag"
    ),
    Rule("…, oldest shown", "s", "the same without the lag", "stale_after of its field"),
    Rule("alarm of … shows in", "ms", "at most old, plus how long the alarm waits"),
    Rule("last digit of …", "/min", "changes of the shown text from reading to reading"),
    Rule("…, one pulse", "/min", "60 ÷ (marks × gate): the turns that one pulse more makes"),
    Rule(
        "…, off at …", "/min", "the worst over all moments at which the gate may open, at the mean speed of the capture"
    ),
    # Digits that are lit in turn.
    Rule("refresh of …", "Hz", "1 ÷ (digits × (on-time + blanking))", "wanted of its scan"),
    Rule("brightness compared with steady", "%", "on-time ÷ time of a round"),
    Rule("blanking against ghosts", "µs", "the time in which all digits are dark", "what a digit needs to go dark"),
    Rule(
        "peak current, one segment",
        "mA",
        "(supply − forward voltage) ÷ (own resistor + resistor of the line)",
        "segment_limit",
    ),
    Rule("mean current, one segment", "mA", "its peak × on-time ÷ time of a round"),
    Rule(
        "peak current, a digit's line",
        "mA",
        "eight segments lit; where they share a resistor in their line, what that lets through",
        "line_limit",
    ),
    Rule("mean current, a digit's line", "mA", "its peak × on-time ÷ time of a round"),
    Rule("a segment of a 1", "mA", "two segments lit share the resistor of their line"),
    Rule("a segment of an 8", "mA", "seven do"),
    Rule("an 8 is dimmer than a 1", "times", "current of a segment of a 1 ÷ that of an 8", "1.5 times"),
    Rule(
        "bands on camera, … /s",
        "%",
        "(most − least) ÷ (most + least) of the light a line of a picture gets: a shutter sees whole rounds and "
        "a rest, which falls on the lit part or on the dark; the worst of 24, 25, 30, 40, 50 and 60 pictures a second",
        "10 %",
    ),
    Rule("digits uneven by", "%", "(longest − shortest time of a digit) ÷ mean, as the loop was played", "10 %"),
    Rule("slowest round", "Hz", "1 ÷ the longest round of all digits"),
    # A battery.
    Rule("mean current", "mA", "waiting + (awake − waiting) × share at work + displays + other parts"),
    Rule("of which awake", "mA", "current awake × share at work"),
    Rule("of which waiting", "mA", "current waiting × (1 − share at work)"),
    Rule("of which displays", "mA", "of panels as they are lit"),
    Rule("of which other parts", "mA", "means of the parts of the hook-up"),
    Rule("battery lasts", "h", "capacity × usable share ÷ mean current"),
    Rule("…, all its parts at their peak", "mA", "sum over a rail, all at once"),
    # A trace of the real thing.
    Rule("digits lit, traced", "", "digits that are lit more than once in the trace", "all of them"),
    Rule("refresh, traced", "Hz", "1 ÷ mean time from a digit's turn to its next, of the slowest digit"),
    Rule("slowest round, traced", "Hz", "1 ÷ the longest such time", "wanted of its scan"),
    Rule(
        "digits uneven, traced",
        "%",
        "how far the share of light of the digit furthest off is from the middle one",
        "10 %",
    ),
    Rule(
        "dark between digits, traced",
        "µs",
        "least time from one digit going dark to the next one coming; below 0 where two are lit at once",
        "what a digit needs to go dark",
    ),
    Rule(
        "brightest ghost, traced",
        "%",
        "part of a digit's time in which a segment glows that changes while it is on",
        "2 %",
    ),
    Rule("segments that differ", "", "lit ones of the trace against those of the field", "none"),
    Rule("pixels that differ", "", "what the bytes of the trace draw against the composed face", "none"),
    Rule("characters that differ", "", "the same, of a display of characters", "none"),
    Rule("… that differ: not judged", "", "no face or no capture says what should have stood there"),
    Rule("glass was wrong", "%", "time of the trace in which something on it was wrong"),
    Rule("drawings in the trace", "", "at least one", "1"),
    Rule("drawings a second, traced", "/s", "drawings ÷ length of the trace", "nine tenths of what its face says"),
    Rule("longest drawing, traced", "ms", "from its first byte to its last"),
    Rule("a drawing, by the model", "ms", "the bytes of one drawing over its bus"),
    Rule("transmissions not answered", "", "those of the trace not acknowledged to the end", "none"),
    Rule("transmissions with bits over", "", "those whose bits are not whole bytes", "none"),
    Rule("bytes that are not a command", "", "those the controller does not know", "none"),
    Rule("bytes beside its memory", "", "data sent to where no cell is", "none"),
    Rule("bytes that change nothing", "%", "bytes sent that were in the display's memory already ÷ all sent", "75 %"),
)
"""In the order of the thread: the loop, digits, a battery, a trace."""


def rule_of(verdict: str) -> Rule | None:
    """The rule that a verdict's name follows; of several the one with the longest fixed text."""
    found = [rule for rule in RULES if rule.is_of(verdict)]
    return max(found, key=lambda rule: len(rule.name), default=None)
