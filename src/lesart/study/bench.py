"""The bench: captures read and chains run, each once, until what they depend on changes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import field, replace
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

from lesart.core.block import Block, joined
from lesart.core.calm.circular import CircularMean, circle_among, unrolled
from lesart.core.calm.noise import Noise, noise_of
from lesart.core.chain import Chain, Link
from lesart.core.dataclass_later import dataclass
from lesart.core.envelope import Envelope, envelope_of
from lesart.core.errors import CaptureError, NotWanted, ReadingStopped
from lesart.core.fit.field import Field
from lesart.core.fit.inspect import changes_per_minute
from lesart.core.latest import latest
from lesart.core.notes import Note
from lesart.core.pack.settings import FLOATS
from lesart.core.ranked import quantiles
from lesart.core.raw.codes import code_step
from lesart.core.raw.messages.survey import Survey
from lesart.core.raw.no_reading import with_none_marked
from lesart.core.raw.settling import with_early_marked
from lesart.core.raw.source import Source
from lesart.core.raw.timing import RawFacts, Timing, raw_facts, timing_of
from lesart.core.some_of import some_of
from lesart.core.step import COMPUTED, Step
from lesart.core.through import PIECE
from lesart.core.wire.hookup import Hookup
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.kept_capture import is_worth_it, keep, kept_capture
from lesart.project.folder.watched import Changes, WatchedFiles
from lesart.project.model import Channel, Project
from lesart.study.lines import LiveView
from lesart.study.run import LONG, Haste, HastyBlocks, Run, run_links
from lesart.study.tokens import Token, token_of

RECENT = 64
FEW, MOST = 16, 4000
ROOM_BYTES = 768 << 20
"""Results are cached up to this size, but always at least a few: a picture uses several of each repeatedly.

A block counts twice, by itself and in its run.
"""

Result = TypeVar("Result")


@dataclass
class _Followed:
    """A chain that goes on where it stopped: its states, of how many samples they are, and what it made of them.

    ``count`` has all samples that ever came in, ``gone`` those that were made and are not among ``made`` any more,
    ``began`` those that had gone before it was there.
    """

    states: tuple[Any, ...]
    count: int
    made: Block
    gone: int
    began: int
    looked_at: bool = True


@dataclass
class Bench:
    """Results by what they were computed from; the longest unused go first. Used by one thread.

    ``views`` are the lines that are listened to, by source: they stand for its capture. What was computed from them
    is dropped when they are looked at again, but chains go on where they stopped. ``stopped`` are sources whose reading
    a person stopped, with what is said of it.
    """

    folder: Path
    kept: OrderedDict[Hashable, Any] = field(default_factory=OrderedDict)
    recent: OrderedDict[Hashable, Any] = field(default_factory=OrderedDict)
    views: Mapping[str, LiveView] = field(default_factory=dict)
    stopped: dict[Source, str] = field(default_factory=dict)
    files: WatchedFiles = field(default_factory=WatchedFiles)
    haste: Haste | None = None
    """The part of long captures in view, while there is no time for all of it."""
    hasty: HastyBlocks = field(default_factory=HastyBlocks)
    left_out: bool = False
    """True where something was left out for that."""
    wanted: Callable[[], bool] | None = None
    """Whether the work is still wanted, asked between parts of it; else NotWanted is raised."""
    keeps: bool = True
    """True to cache long captures in the project's own folder."""
    as_firmware: Callable[[Project, Bench, Channel], Channel] | None = None
    """Makes a channel with the integer chain of its firmware; injected, because it needs captures from a bench."""

    def __post_init__(self) -> None:
        self._bytes: dict[Hashable, int] = {}
        self._moving: dict[Hashable, Any] = {}
        self._moving_arrays: set[Token] = set()
        self._followed: dict[Hashable, _Followed] = {}

    def hear(self, views: Mapping[str, LiveView]) -> None:
        """Take in the present views of lines."""
        if not views and not self.views:
            return
        self.views = views
        self._moving.clear()
        blocks = [block for view in views.values() for block in view.capture.columns.values()]
        self._moving_arrays = {token_of(array) for block in blocks for array in (block.x, block.t)}
        # A chain unused since the last time belongs to an earlier edit, or to a line that is gone.
        self._followed = {key: each for key, each in self._followed.items() if each.looked_at}
        for each in self._followed.values():
            each.looked_at = False

    def _is_moving(self, key: Hashable) -> bool:
        """True for a result from a live line."""
        return isinstance(key, tuple) and any(type(part) is Token and part in self._moving_arrays for part in key)

    def _once(self, key: Hashable, compute: Callable[[], Result]) -> Result:
        if self.views and self._is_moving(key):
            if key not in self._moving:
                self._moving[key] = compute()
            return self._moving[key]  # type: ignore[no-any-return]
        if key in self.kept:
            self.kept.move_to_end(key)
            return self.kept[key]  # type: ignore[no-any-return]
        self._ask()
        result = compute()
        self.kept[key] = result
        self._bytes[key] = bytes_of(result)
        while len(self.kept) > FEW and (len(self.kept) > MOST or sum(self._bytes.values()) > ROOM_BYTES):
            oldest, _ = self.kept.popitem(last=False)
            del self._bytes[oldest]
        return result

    def _ask(self) -> None:
        if self.wanted is not None and not self.wanted():
            raise NotWanted

    def capture(self, source: Source) -> Capture:
        """The capture of a source, or what its line said so far. Raises CaptureError.

        Read again only when the source's reading changes: captures do not.
        """
        view = self.views.get(source.name)
        if view is not None:
            if not view.capture.columns:
                why = view.state.trouble or "nothing has come yet"
                raise CaptureError(f"{source.name}: {why}.")
            return view.capture
        if source in self.stopped:
            raise ReadingStopped(f"{self.stopped[source]} o reads it.")
        try:
            return self._once(("capture", source), lambda: self._read(source))
        except ReadingStopped as error:
            self.stopped[source] = str(error)
            raise

    def has(self, source: Source) -> bool:
        """Is its capture at hand, or will never be?"""
        return source.name in self.views or ("capture", source) in self.kept or source in self.stopped

    def _read(self, source: Source) -> Capture:
        path = self.folder / source.capture
        self.files.note(path)
        if not self.keeps or not is_worth_it(path, source):
            return read_capture(path, source)
        kept = kept_capture(self.folder, path, source)
        if kept is None:
            kept = read_capture(path, source)
            keep(self.folder, path, source, kept)
        return kept

    def is_gone(self, source: Source) -> bool:
        """True where its capture was removed since it was read."""
        return self.folder / source.capture in self.files.gone

    def look_outside(self) -> Changes:
        """Check files that were read; results from changed ones are dropped."""
        changes = self.files.look()
        if changes.changed:
            for kept in (self.kept, self.recent, self._bytes):
                kept.clear()
        return changes

    def raw(self, project: Project, channel: Channel) -> Block:
        """The raw column of the channel. Raises CaptureError or RequestError."""
        source = project.sources[channel.source]
        capture = self.capture(source)
        block = capture.column(channel.column, f"channels.{channel.name}")
        if source.settle_s > 0 or source.least_interval_s > 0:
            early = source.settle_s, source.least_interval_s
            begun = capture.begun(block)
            whole = block
            block = self._once(("early", token_of(whole.x), early), lambda: with_early_marked(whole, *early, begun))
            self._note_moving(whole, block)
        return self._without_no_readings(channel, block)

    def _without_no_readings(self, channel: Channel, block: Block) -> Block:
        """A block with values that mean no reading marked missing."""
        if not channel.no_reading:
            return block
        key = ("no reading", token_of(block.x), token_of(block.mark), channel.no_reading)
        marked = self._once(key, lambda: with_none_marked(block, channel.no_reading))
        self._note_moving(block, marked)
        return marked

    def _note_moving(self, before: Block, after: Block) -> None:
        """Note that a result from live data is live too."""
        if token_of(before.x) in self._moving_arrays:
            self._note_moving_block(after)

    def _note_moving_block(self, block: Block) -> None:
        self._moving_arrays |= {token_of(block.x), token_of(block.t)}

    def run(self, project: Project, channel: Channel) -> Run:
        """Run the whole capture through the chain. A change in a later step keeps the results of earlier ones."""
        raw = self.raw(project, channel)
        channel = self.as_computed(project, channel)
        if not self.views and not channel.chain.reads:
            key = ("channel", token_of(channel), token_of(raw.x))
            if self.haste is not None and len(raw) > LONG and key not in self.kept:
                self.left_out = True
                return self.haste.run(channel, raw, self.hasty)
            # By the channel itself: most pictures are of one that was run before, and comparing chains takes longer.
            return self._once(key, lambda: self._run(project, channel, raw))
        return self._run(project, channel, raw)

    def as_computed(self, project: Project, channel: Channel) -> Channel:
        """The channel, or with the integer chain of its firmware. Raises PackError where there is none."""
        if channel.computed == FLOATS:
            return channel
        make = self.as_firmware
        if make is None:
            raise RuntimeError(f"{channel.name} is computed as in firmware, and this bench was not told how")
        # The finest field decides the integer resolution; its place does not matter.
        faces = project.looking_at(channel).faces.values()
        fields = tuple(item.field for face in faces for item in face.fields_of(channel.name))
        key = ("firmware", token_of(channel), project.pack, fields)
        return self._once(key, lambda: make(project, self, channel))

    def _run(self, project: Project, channel: Channel, raw: Block) -> Run:
        source = project.sources[channel.source]
        blocks = {Step.RAW: raw}
        others = {name: self.run(project, project.channels[name]).calm for name in channel.chain.reads}
        read = tuple(token_of(array) for other in others.values() for array in (other.x, other.t))
        links: tuple[Link, ...] = ()
        gone, lost = self.views[source.name].gone if source.name in self.views else 0, 0
        for step in COMPUTED[1:]:
            own = tuple(link for link in channel.chain.links if link.step == step)
            links += own
            before = blocks[COMPUTED[COMPUTED.index(step) - 1]]
            if own and source.name in self.views:
                what = (source.name, channel.column, channel.no_reading, channel.unit_raw, links)
                blocks[step], gone = self._follow(what, own, before, gone, others)
                lost = self._followed[what].began if step is Step.LAW else lost
                continue
            key = ("run", source, channel.column, channel.no_reading, channel.unit_raw, links, *read)
            if own:
                blocks[step] = self._once(key, lambda own=own, before=before: run_links(own, before, others, self._ask))  # type: ignore[misc]
            else:
                blocks[step] = before
            if read and not self._moving_arrays.isdisjoint(read):
                self._note_moving_block(blocks[step])
        return Run(blocks, lost)

    def _follow(
        self, key: Hashable, links: tuple[Link, ...], block: Block, gone: int, others: Mapping[str, Block]
    ) -> tuple[Block, int]:
        """A moving block through some links, after ``gone`` samples that went; and how many of what was made went.

        Only what is new is computed, which gives the same to the bit; a total goes on though its first samples went.
        """
        unit = links[0].stage.unit_in
        chain = Chain(unit, unit, links)
        followed = self._followed.get(key)
        if followed is None or not 0 <= followed.count - gone <= len(block):
            followed = _Followed(chain.initial(), gone, block[:0], gone, gone)
            self._followed[key] = followed
        followed.looked_at = True
        first = block.t[0] if len(block) else np.inf
        is_each = followed.gone + len(followed.made) == followed.count
        went = max(gone - followed.gone, 0) if is_each else int(np.searchsorted(followed.made.t, first))
        if went:
            followed.made, followed.gone = followed.made[went:], followed.gone + went
        pieces = [followed.made] if len(followed.made) else []
        for piece in block[followed.count - gone :].pieces(PIECE):
            followed.states, after = chain.run(followed.states, piece, others)
            pieces.append(after[-1])
        followed.count = gone + len(block)
        if len(pieces) > 1 or not len(followed.made):
            followed.made = joined(pieces) if pieces else block[:0]
        self._note_moving(block, followed.made)
        return followed.made, followed.gone

    def standing(self, project: Project, channel: Channel, at_s: float) -> Channel:
        """The channel while the others that its laws read stand as they did at a moment; itself where it reads none.

        A channel that has said nothing by then stands at its first value. Raises CaptureError, as ``run`` does.
        """
        if not channel.chain.reads:
            return channel
        readings = self.readings_at(project, channel.chain.reads, at_s)
        return replace(channel, chain=channel.chain.at(readings))

    def readings_at(self, project: Project, channels: Iterable[str], at_s: float) -> dict[str, float]:
        """Latest readings of channels at a time, each in its unit; before their first value, that one.

        Raises CaptureError.
        """
        readings = {}
        for name in channels:
            calm = self.run(project, project.channels[name]).calm
            x, _ = latest(calm, np.array([at_s]))
            good = np.flatnonzero(calm.usable)[: 1 if np.isnan(x[0]) else 0]
            readings[name] = float(calm.x[good[0]]) if len(good) else float(x[0])
        return readings

    def survey(self, source: Source) -> Survey:
        """The survey of a two-wire bus in a trace, without expected devices. Raises CaptureError."""
        from lesart.core.raw.silence import survey_in

        lines = self.capture(source).lines
        names = dict(source.decoding.lines) if source.decoding else {}
        clock, data = lines[names["clock"]], lines[names["data"]]
        return self._once(("survey", token_of(clock.t)), lambda: survey_in(clock, data))

    def once_known(self, what: Hashable, compute: Callable[[], Result]) -> Result:
        """A result that depends on values alone, all of them in ``what``, computed once while it is looked at.

        Each edit makes some of these again, and they hold the project that they were made for: only the last are kept.
        """
        if what in self.recent:
            self.recent.move_to_end(what)
        else:
            self.recent[what] = compute()
            while len(self.recent) > RECENT:
                self.recent.popitem(last=False)
        return self.recent[what]  # type: ignore[no-any-return]

    def once_for(self, what: str, channel: Channel, block: Block, compute: Callable[[], Result]) -> Result:
        """A cached result for a channel and one of its blocks."""
        return self._once((what, token_of(channel), token_of(block.x)), compute)

    def once_of(self, what: Hashable, *blocks: Block, compute: Callable[[], Result]) -> Result:
        """A cached result that depends on the values in ``what``, and on some blocks."""
        return self._once((what, *(token_of(block.x) for block in blocks)), compute)

    def knows(self, what: str, channel: Channel, block: Block) -> bool:
        """True where a result of ``once_for`` is cached."""
        key = (what, token_of(channel), token_of(block.x))
        return key in self.kept or key in self._moving

    def envelope(self, block: Block) -> Envelope:
        """The envelope of one of the bench's blocks."""
        return self._once(("envelope", token_of(block.x)), lambda: envelope_of(block))

    def timing(self, block: Block) -> Timing:
        """Cached, for one of the bench's blocks."""
        return self._once(("timing", token_of(block.t)), lambda: timing_of(block.t))

    def facts(self, block: Block) -> RawFacts:
        """Cached, for one of the bench's blocks."""
        return self._once(("facts", token_of(block.x)), lambda: raw_facts(block))

    def code_step(self, block: Block) -> int:
        """The common step of counts in a raw column."""
        return self._once(("code step", token_of(block.x)), lambda: code_step(block.x[block.usable]))

    def hookup_notes(self, hookup: Hookup) -> tuple[Note, ...]:
        """Cached notes on a hook-up, which most edits leave unchanged."""
        from lesart.core.wire.faults.inspect import inspect_hookup

        return self._once(("hookup", token_of(hookup)), lambda: inspect_hookup(hookup))

    def middle(self, block: Block) -> tuple[float, float]:
        """Ends of the middle 99 % of the usable samples; zeros without any."""
        return self._once(("middle", token_of(block.x)), lambda: _middle(some_of(block)))

    def on_a_line(self, channel: Channel, block: Block) -> Block:
        """Readings, unwrapped where the channel has a circular filter."""
        turn = turn_of(channel)
        return self._once(("on a line", turn, token_of(block.x)), lambda: unrolled(block, turn)) if turn else block

    def noise_of(self, block: Block) -> Noise:
        """Noise about the signal, and whether that bends; not for filtered blocks."""
        return self._once(("noise", token_of(block.x)), lambda: noise_of(some_of(block)))

    def noise(self, block: Block) -> float:
        """Noise about the signal, in the block's unit."""
        return self.noise_of(block).sigma

    def restless(self, field: Field, block: Block) -> float:
        """Changes of the last digit per minute."""
        key = ("restless", field.decimals, field.round, field.unit_shown, token_of(block.x))
        return self._once(key, lambda: changes_per_minute(field, block))


def circle_of(channel: Channel) -> CircularMean | None:
    """The circle of a channel's readings, if it has a circular filter."""
    return circle_among(link.stage for link in channel.chain.links)


def turn_of(channel: Channel) -> float:
    """A full turn, where a channel has a circular filter; else 0."""
    circle = circle_of(channel)
    return circle.turn if circle is not None else 0.0


def bytes_of(result: object) -> int:
    """Memory of a result without its inputs; captures count by their content."""
    if isinstance(result, Block):
        return int(result.x.nbytes + result.mark.nbytes)
    if isinstance(result, Capture):
        return sum(bytes_of(block) for block in result.columns.values())
    if isinstance(result, Run):
        return sum(map(bytes_of, result.blocks.values()))
    if isinstance(result, Envelope):
        return sum(int(low.nbytes + high.nbytes) for low, high in result.levels)
    return 0


def _middle(block: Block) -> tuple[float, float]:
    good = block.x[block.usable]
    if not len(good):
        return 0.0, 0.0
    low, high = quantiles(good, (0.005, 0.995))
    return low, high
