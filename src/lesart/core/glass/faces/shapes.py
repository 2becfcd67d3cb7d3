"""Graphic items: boxes, trends, dials, spectra, bubbles and pictures, each drawn into its box."""

from __future__ import annotations

import math
from collections.abc import Mapping

from lesart.core.block import UNUSABLE
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.fit.field import Reading
from lesart.core.glass.faces.hue import PLAIN, Hue
from lesart.core.glass.faces.motion import Motion
from lesart.core.glass.faces.plotting import Canvas
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.raw.spectrum import Bands

STILL = Motion()
USUAL = 5
SILENT = Reading(float("nan"), age_s=float("inf"))
NEEDLE = 0.8
"""Of a dial's radius: the needle ends before the scale, so that both can be seen."""
TICKS = 4
"""Divisions of a dial's scale."""


@dataclass(frozen=True)
class Scale:
    """The ends of a scale in the channel's unit; readings older than ``stale_after_s`` do not count."""

    channel: str
    low: float
    high: float
    stale_after_s: float = math.inf

    def share(self, readings: Mapping[str, Reading]) -> float | None:
        """Position of the reading between the ends, 0 to 1; None where it is bad or stale."""
        reading = readings.get(self.channel, SILENT)
        if reading.mark & UNUSABLE or math.isnan(reading.value) or reading.age_s > self.stale_after_s:
            return None
        return min(max((reading.value - self.low) / (self.high - self.low), 0.0), 1.0)


@dataclass(frozen=True, kw_only=True)
class Shape:
    """A box of pixels, ``width`` across and ``tall`` down, whose upper left corner is at ``row`` and ``column``."""

    row: int
    column: int
    width: int
    tall: int
    importance: int = USUAL
    pinned: bool = False
    motion: Motion = STILL
    hue: Hue = PLAIN

    @property
    def reads(self) -> tuple[str, ...]:
        """Channels it shows."""
        return ()

    @property
    def is_still(self) -> bool:
        """Is it the same whatever is read and whenever?"""
        return False

    def cells(self, panel: object, readings: Mapping[str, Reading]) -> tuple[Cell, ...]:
        """No cells: it is not a text."""
        return ()

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        """``tall`` rows of ``width`` bits, the leftmost pixel the highest, ``t_s`` after the face came on."""
        raise NotImplementedError

    def named(self) -> str:
        """In notes."""
        raise NotImplementedError


@dataclass(frozen=True, kw_only=True)
class Box(Shape):
    """Pixels that are always lit: a box, its outline, or a line."""

    filled: bool = True

    @property
    def is_still(self) -> bool:
        return True

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        canvas = Canvas(self.width, self.tall)
        canvas.box(0, 0, self.width, self.tall, filled=self.filled)
        return canvas.rows()

    def named(self) -> str:
        return "line" if 1 in (self.width, self.tall) else "box"


@dataclass(frozen=True, kw_only=True)
class OfChannel(Shape):
    """A shape that shows one channel."""

    channel: str

    @property
    def reads(self) -> tuple[str, ...]:
        return (self.channel,)


@dataclass(frozen=True, kw_only=True)
class Trend(OfChannel):
    """A reading's last ``span_s`` seconds as a line; ``low`` and ``high`` in the channel's unit, None to scale by its
    data."""

    span_s: float
    low: float | None
    high: float | None

    def heights(self, readings: Mapping[str, Reading]) -> list[int | None]:
        """For each column the row from the foot, 0 to ``tall`` − 1; None where there is no good reading."""
        past = readings.get(self.channel, SILENT).past_of(self.span_s, self.width)
        good = [value for value in past if math.isfinite(value)]
        low = self.low if self.low is not None else min(good, default=0.0)
        high = self.high if self.high is not None else max(good, default=1.0)
        span = high - low if high > low else 1.0
        return [
            None
            if not math.isfinite(value)
            else min(max(round((value - low) / span * (self.tall - 1)), 0), self.tall - 1)
            for value in past
        ]

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        """Rows of a line from column to column, vertical where it rises or falls by more than a pixel; gaps where
        nothing came."""
        canvas = Canvas(self.width, self.tall)
        before: int | None = None
        for column, height in enumerate(self.heights(readings)):
            if height is not None:
                ends = (height, height if before is None else before)
                # The line from the previous column ends next to the pixel that is already there.
                low, high = min(ends), max(ends)
                if before is not None and high > low:
                    low, high = (low + 1, high) if before < height else (low, high - 1)
                for y in range(low, high + 1):
                    canvas.light(column, self.tall - 1 - y)
            before = height
        return canvas.rows()

    def named(self) -> str:
        return f"trend of {self.channel}"


@dataclass(frozen=True, kw_only=True)
class Dial(OfChannel):
    """A scale over ``sweep_deg`` degrees, open at the bottom, and a needle.

    Where the reading is bad or stale there is no needle: one at the stop would be taken for a reading.
    """

    scale: Scale
    sweep_deg: float = 180.0

    @property
    def radius(self) -> float:
        """Radius of the scale in pixels, as large as the box allows."""
        half = math.radians(self.sweep_deg / 2)
        across = 2 * math.sin(min(half, math.pi / 2))
        down = 1 - math.cos(half) if half > math.pi / 2 else 1.0
        return min((self.width - 1) / across, (self.tall - 1) / down)

    def angle_at(self, share: float) -> float:
        """Angle of the needle in radians from the right, counterclockwise."""
        return math.radians(90.0 + self.sweep_deg / 2 - share * self.sweep_deg)

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        canvas, radius = Canvas(self.width, self.tall), self.radius
        middle, axis = (self.width - 1) / 2, radius
        canvas.arc(middle, axis, radius, self.angle_at(1.0), self.angle_at(0.0))
        for tick in range(TICKS + 1):
            dx, dy = _unit(self.angle_at(tick / TICKS))
            canvas.line(middle + dx * radius, axis - dy * radius, middle + dx * (radius - 2), axis - dy * (radius - 2))
        share = self.scale.share(readings)
        if share is not None:
            dx, dy = _unit(self.angle_at(share))
            canvas.line(middle, axis, middle + dx * radius * NEEDLE, axis - dy * radius * NEEDLE)
        return canvas.rows()

    def named(self) -> str:
        return f"dial of {self.channel}"


@dataclass(frozen=True, kw_only=True)
class Spectrum(OfChannel):
    """Levels of a waveform by frequency, as bars; ``range_db`` from the foot to the loudest given level."""

    bands: Bands
    range_db: float

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        canvas, count = Canvas(self.width, self.tall), self.bands.count
        levels = readings.get(self.channel, SILENT).levels_of(self.bands)
        loudest = max((level for level in levels if math.isfinite(level)), default=0.0)
        for place in range(count):
            left, behind = place * self.width // count, (place + 1) * self.width // count
            width = max(behind - left - 1, 1)
            level = levels[place]
            share = 1.0 + (level - loudest) / self.range_db if math.isfinite(level) else 0.0
            # A bar always shows its foot, so that silence can be told from a panel that is off.
            height = max(round(min(max(share, 0.0), 1.0) * self.tall), 1)
            canvas.box(left, self.tall - height, width, height)
        return canvas.rows()

    def named(self) -> str:
        return f"spectrum of {self.channel}"


@dataclass(frozen=True, kw_only=True)
class Bubble(Shape):
    """A disc within an outline, moved by two channels and optionally sized by a third up to ``size`` pixels."""

    across: Scale
    up: Scale
    sized_by: Scale | None
    size: int = 5

    @property
    def reads(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(scale.channel for scale in (self.across, self.up, self.sized_by) if scale))

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        canvas = Canvas(self.width, self.tall)
        canvas.box(0, 0, self.width, self.tall, filled=False)
        x, y = self.across.share(readings), self.up.share(readings)
        grown = self.sized_by.share(readings) if self.sized_by else 1.0
        if x is None or y is None or grown is None:
            return canvas.rows()
        size = max(round(grown * self.size), 1)
        half = (size - 1) / 2
        room_x, room_y = max(self.width - 2 - size, 0), max(self.tall - 2 - size, 0)
        canvas.disc(1 + half + round(x * room_x), 1 + half + round((1.0 - y) * room_y), size)
        return canvas.rows()

    def named(self) -> str:
        return f"bubble of {self.across.channel} and {self.up.channel}"


@dataclass(frozen=True, kw_only=True)
class PictureItem(Shape):
    """Frames of a picture, one after another, each for its time; the last of ``durations_s`` 0: it stays."""

    picture: str
    frames: tuple[PixelFrame, ...]
    durations_s: tuple[float, ...]

    @property
    def is_still(self) -> bool:
        return len(self.frames) == 1

    def frame_at(self, t_s: float) -> PixelFrame:
        """The frame shown at a time."""
        total = sum(self.durations_s)
        if total <= 0:
            return self.frames[0]
        within = t_s % total
        for frame, lasts_s in zip(self.frames, self.durations_s, strict=True):
            if within < lasts_s:
                return frame
            within -= lasts_s
        return self.frames[-1]

    def rows(self, readings: Mapping[str, Reading], t_s: float) -> tuple[int, ...]:
        return self.frame_at(t_s).rows

    def named(self) -> str:
        return f"picture {self.picture}"


def _unit(angle: float) -> tuple[float, float]:
    return math.cos(angle), math.sin(angle)
