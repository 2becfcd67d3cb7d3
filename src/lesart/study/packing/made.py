"""A packed project: its channels in integers with their vectors, and why some are left out."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.pace.task import Task
from lesart.core.pack.channel_form import ChannelForm, ChannelWanted, channel_form
from lesart.core.pack.law_forms.pair_surface import Beside
from lesart.core.pack.machine import PackError
from lesart.core.pack.program.whole import TIMES
from lesart.core.pack.settings import PackSettings
from lesart.core.pack.written.c_channel import reading_range
from lesart.core.pack.written.c_edges import EdgesWanted
from lesart.core.pack.written.c_panel import PanelTables
from lesart.core.pack.written.c_source import FramesWanted
from lesart.core.pack.written.files import pack_files
from lesart.core.pack.written.vectors import Given, Vector, ends_of, vectors
from lesart.core.through import through
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.packing.edges import edges_of
from lesart.study.packing.frames import frames_of
from lesart.study.packing.panels import panel_tables, tasks_of
from lesart.study.packing.wanted import channel_wanted, code_names

BEGINS_MS = 1000
"""The clock at the first vector: not 0, the initial value of a state."""


@dataclass(frozen=True)
class Followed:
    """The model compared with the desk over the vectors of a capture, after all filters: ``worst`` in the reading's
    unit, over ``readings``; ``otherwise`` is the number good for only one of the two."""

    readings: int
    worst: float
    otherwise: int


@dataclass(frozen=True, eq=False)
class PackedChannel:
    """A channel's form, its vectors, and its agreement with the desk."""

    form: ChannelForm
    vectors: tuple[Vector, ...]
    followed: Followed


@dataclass(frozen=True, eq=False)
class Pack:
    """``left_out`` gives the reason by channel."""

    title: str
    name: str
    settings: PackSettings
    channels: tuple[PackedChannel, ...]
    left_out: Mapping[str, str]
    panels: tuple[PanelTables, ...] = ()
    tasks: tuple[tuple[str, Task], ...] = ()
    frames: tuple[FramesWanted, ...] = ()
    edges: tuple[EdgesWanted, ...] = ()

    @property
    def files(self) -> dict[str, str]:
        """All files."""
        tested = [(each.form, each.vectors) for each in self.channels]
        machine = self.settings.machine
        more = self.panels, self.tasks, self.frames, self.edges
        return pack_files(self.title, self.name, machine, tested, {**self.left_out, **self.undrawn}, *more)

    @property
    def undrawn(self) -> dict[str, str]:
        """Why no frame can be sent, by the panel's identifier."""
        return {f"glass {each.name}": each.undrawn for each in self.panels if each.undrawn}


def packed(
    project: Project,
    bench: Bench,
    settings: PackSettings,
    names: Sequence[str] = (),
    told: Callable[[str], None] = lambda name: None,
) -> Pack:
    """All channels with panels and loop, or only the named channels, each in its adopted variant; ``told`` is called
    with the next one."""
    in_code = code_names(project.channels)
    made: dict[str, PackedChannel] = {}
    left_out: dict[str, str] = {}
    for name in _in_turn(project, names or tuple(project.channels)):
        told(name)
        try:
            beside = _beside(project.channels[name], {each: done.form for each, done in made.items()})
            made[name] = packed_channel(project, bench, project.channels[name], in_code[name], settings, beside)
        except PackError as error:
            left_out[name] = str(error)
    own = next(iter(code_names([project.name]).values()))
    name = f"{own}_pack" if own in in_code.values() else own
    whole = () if names else panel_tables(project, {each: done.form for each, done in made.items()})
    operations = {each: done.form.operations for each, done in made.items()}
    tasks = () if names else tasks_of(project, bench, operations)
    frames, edges = ((), ()) if names else (frames_of(project), edges_of(project, bench))
    return Pack(project.name, name, settings, tuple(made.values()), left_out, whole, tasks, frames, edges)


def channel_packed_alone(project: Project, bench: Bench, channel: Channel, settings: PackSettings) -> PackedChannel:
    """One channel, in any of its variants, with those that its laws read. Raises PackError."""
    forms = _forms_beside(project, bench, channel, settings)
    return packed_channel(project, bench, channel, _in_code(project, channel), settings, _beside(channel, forms))


def form_alone(project: Project, bench: Bench, channel: Channel) -> ChannelForm:
    """The form alone, for the processor of the project. Raises PackError."""
    forms = _forms_beside(project, bench, channel, project.pack)
    name, beside = _in_code(project, channel), _beside(channel, forms)
    return channel_form(channel_wanted(project, bench, channel, name, project.pack, beside))


def _in_code(project: Project, channel: Channel) -> str:
    return code_names(project.channels)[channel.name]


def _forms_beside(project: Project, bench: Bench, channel: Channel, settings: PackSettings) -> dict[str, ChannelForm]:
    """Forms of the channels that its laws read, directly or not."""
    in_code = code_names(project.channels)
    forms: dict[str, ChannelForm] = {}
    for name in _in_turn(project, channel.chain.reads):
        other = project.channels[name]
        wanted = channel_wanted(project, bench, other, in_code[name], settings, _beside(other, forms))
        forms[name] = channel_form(wanted)
    return forms


def _in_turn(project: Project, names: Sequence[str]) -> tuple[str, ...]:
    """Channels in order, each after those that its laws read, which are packed as well."""
    out: dict[str, None] = {}

    def put(name: str) -> None:
        for other in project.channels[name].chain.reads:
            put(other)
        out[name] = None

    for name in names:
        put(name)
    return tuple(out)


def _beside(channel: Channel, forms: Mapping[str, ChannelForm]) -> Beside | None:
    """The channel that its laws read. Raises PackError where that one could not be packed."""
    if len(channel.chain.reads) != 1:
        return None
    other = channel.chain.reads[0]
    if other not in forms:
        raise PackError(f"{channel.name}: it reads {other}, which is left out itself.")
    form = forms[other]
    low, high = reading_range(form)
    return Beside(other, form.wanted.name, form.scale, low, high)


def packed_channel(
    project: Project,
    bench: Bench,
    channel: Channel,
    name: str,
    settings: PackSettings,
    beside: Beside | None = None,
) -> PackedChannel:
    """The packed channel. Raises PackError for what has no integer form."""
    wanted = channel_wanted(project, bench, channel, name, settings, beside)
    form = channel_form(wanted)
    taken = _taken(project, bench, channel, wanted, settings.vectors)
    begins = (taken[-1].now if taken else BEGINS_MS) + 60_000
    interval_ms = max(round(wanted.interval_s * 1000), 1)
    made = vectors(form, (*taken, *ends_of(form, interval_ms, begins)))
    return PackedChannel(form, made, _followed(form, made[: len(taken)]))


def _taken(project: Project, bench: Bench, channel: Channel, wanted: ChannelWanted, count: int) -> tuple[Given, ...]:
    """The first samples of the capture, and as many around the first bad one after them."""
    try:
        block = bench.raw(project, channel)
    except LesartError:
        return ()
    bad = np.flatnonzero(block.mark[count // 2 :])
    start = int(bad[0]) if len(bad) else count // 2
    half = count // 2
    parts = [block[:half], block[half + max(start - half // 2, 0) :][:half]] if half else []
    out: list[Given] = []
    readings = _read_beside(project, bench, wanted)
    for part in parts:
        for t, x, mark in zip(part.t.tolist(), part.x.tolist(), part.mark.tolist(), strict=True):
            number = round(wanted.raw.number(x)) if np.isfinite(x) else 0
            is_inside = wanted.low <= number <= wanted.high
            number = min(max(number, wanted.low), wanted.high)
            now = (BEGINS_MS + round((t - float(block.t[0])) * 1000)) % TIMES
            flags = int(mark) if is_inside else int(mark) | int(Mark.RANGE)
            out.append(Given(number, flags, now, *readings(t)))
    return tuple(out)


def _read_beside(project: Project, bench: Bench, wanted: ChannelWanted) -> Callable[[float], tuple[int, int]]:
    """The other channel's reading at a time: an integer in its scale, and its mark."""
    beside = wanted.beside
    if beside is None:
        return lambda t: (0, 0)
    try:
        calm = bench.run(project, project.channels[beside.title]).calm
    except LesartError:
        return lambda t: ((beside.low + beside.high) // 2, int(Mark.MISSING))

    def at(t: float) -> tuple[int, int]:
        place = int(np.searchsorted(calm.t, t, side="right")) - 1
        if place < 0 or not np.isfinite(calm.x[place]):
            return (beside.low + beside.high) // 2, int(Mark.MISSING)
        return min(max(round(beside.scale.number(float(calm.x[place]))), beside.low), beside.high), int(
            calm.mark[place]
        )

    return at


def _others(form: ChannelForm, made: Sequence[Vector], t: Floats) -> dict[str, Block]:
    """The other channel's reading at each of them."""
    beside = form.wanted.beside
    if beside is None:
        return {}
    mark = np.array([each.given.beside_mark for each in made], np.uint8)
    x = float(beside.scale.zero) + np.array([each.given.beside for each in made]) * float(beside.scale.step)
    return {beside.title: Block(t, np.where(mark & 31, np.nan, x), mark)}


def _followed(form: ChannelForm, made: Sequence[Vector]) -> Followed:
    """Agreement with the desk's chain on the same raw numbers at the same times."""
    if not made:
        return Followed(0, 0.0, 0)
    raw = np.array([each.given.raw for each in made], np.float64)
    t = np.array([each.given.now for each in made], np.float64) / 1000.0
    mark = np.array([each.given.mark for each in made], np.uint8)
    x = float(form.wanted.raw.zero) + raw * float(form.wanted.raw.step)
    block = Block(t, np.where(mark & 31, np.nan, x), mark)
    desk = through(form.wanted.chain, block, _others(form, made, t))
    ours = [each.stages[-1] for each in made if each.stages[-1].passes]
    if len(ours) != len(desk):
        return Followed(len(desk), float("nan"), abs(len(ours) - len(desk)))
    values = np.array([each.x for each in ours], np.float64) * float(form.scale.step) + float(form.scale.zero)
    usable = (np.array([each.mark for each in ours], np.uint8) & 31) == 0
    both = usable & desk.usable
    worst = float(np.abs(values[both] - desk.x[both]).max()) if both.any() else 0.0
    return Followed(len(desk), worst, int((usable != desk.usable).sum()))
