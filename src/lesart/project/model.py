"""A project as checked: every unit compared, every chain compiled."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field, replace
from typing import Any

from lesart.core.calm.alarm import Alarm
from lesart.core.calm.record import FilterEntry
from lesart.core.chain import Chain
from lesart.core.dataclass_later import dataclass
from lesart.core.fit.field import Field
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.items import FieldItem
from lesart.core.glass.panels.panel import Panel
from lesart.core.glyphs.charsets import CharacterSet
from lesart.core.glyphs.fonts import Font
from lesart.core.law.record import LawEntry
from lesart.core.notes import Key, Written
from lesart.core.pace.limits import Limits
from lesart.core.pace.task import Processor
from lesart.core.pace.trace import PanelTrace
from lesart.core.pack.settings import FLOATS, PackSettings
from lesart.core.raw.source import Source
from lesart.core.true.correction import Correction
from lesart.core.true.history import Calibration
from lesart.core.true.reference import Reference
from lesart.core.units import Unit
from lesart.core.wire.check import Check
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.sums import Sum
from lesart.project.assets.named import Assets
from lesart.project.assets.shown_picture import ShownPicture

Table = Mapping[str, Any]
ADOPTED = "adopted"
"""Name of the calibration in use."""
VARYING = ("law", "true", "calm", "fit", "alarms", "pack")
"""Sections of a channel that a variant may have of its own."""


@dataclass(frozen=True)
class Channel:
    """One measured quantity, from a column of its source to its field. Limits are in ``unit``.

    ``part`` names the part of the hook-up that it is read from; empty where it is not stated.
    """

    name: str
    source: str
    column: str
    part: str
    unit_raw: Unit
    no_reading: tuple[float, ...]
    """Raw values that mean no reading."""
    unit: Unit
    lowest: float
    highest: float
    laws: tuple[LawEntry, ...]
    filters: tuple[FilterEntry, ...]
    chain: Chain
    """Laws, correction and filters, joined."""
    references: tuple[Reference, ...]
    correction: Correction
    residual_limit: float
    valid_d: float
    most_lag_s: float
    outside: str
    """What happens to a reading beyond ``lowest`` or ``highest``: shown as it is, or marked."""
    alarms: tuple[Alarm, ...]
    field: Field
    calibrations: tuple[Calibration, ...] = ()
    """Earlier calibrations; the adopted one is ``references`` with ``correction``."""
    variant: str = ""
    variants: tuple[Channel, ...] = ()
    """Its variants, each a channel of the same name with its ``variant`` set."""
    computed: str = FLOATS
    """How the desk computes it: by ``chain``, or by the integers of a firmware."""

    @property
    def says(self) -> str:
        """Its filters in a few words."""
        return ", ".join(each.says for each in self.filters) or "as measured"

    @property
    def adopted(self) -> Calibration:
        """The adopted calibration: its references with the fit through them."""
        return Calibration(ADOPTED, self.references, self.correction)

    def key(self, section: str) -> Key:
        """The key of a section of its tables: that of the variant, where it is one and the section may vary."""
        if self.variant and section in VARYING:
            return ("channels", self.name, "variants", self.variant, section)
        return ("channels", self.name, section)


@dataclass(frozen=True)
class Home:
    """Where a fact is stated: at ``key`` of the project file, ``written`` as it would stand elsewhere; ``says`` is
    where, in a few words.

    ``one_with`` names what it is: two places that take it from one home move together, however many keys lead there.
    ``within`` is how far, as a share, a value stated elsewhere may be from it and yet be the same: rails are nominal.
    ``certain`` is False where the home is only what is usual; ``compared`` is False where a value of one's own is
    better than it, as one that was measured is. ``same``: the value at ``key`` is this very one, so that what changes
    it is written there.
    """

    key: Key
    written: Written
    says: str
    one_with: str = ""
    within: float = 1e-9
    certain: bool = True
    compared: bool = True
    same: bool = False

    @property
    def name(self) -> str:
        """The identity of the fact; its own place by default."""
        return self.one_with or ".".join(str(part) for part in self.key)


@dataclass(frozen=True)
class LoopSettings:
    """``overruled``: the written values of a task by its name; ``values`` include defaults."""

    processor: Processor = Processor()
    limits: Limits = Limits()
    seed: int = 1
    shutter_ms: float = 20.0
    overruled: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    usual: dict[str, dict[str, str | int | bool]] = field(default_factory=dict, compare=False)
    """Default values of each task, as the file would have them: filled in where the captures are known."""


@dataclass(frozen=True)
class Project:
    """All of ``lesart.toml``; ``tables`` is the file itself as plain tables, for the rows on the screen.

    ``checks`` is the bring-up list of the hook-up, ``measured`` what was measured, by key of the check.
    """

    name: str
    sources: Mapping[str, Source]
    channels: Mapping[str, Channel]
    panels: Mapping[str, Panel]
    faces: Mapping[str, Face]
    hookup: Hookup
    sums: Mapping[str, Sum]
    checks: tuple[Check, ...]
    measured: Mapping[str, str]
    tables: Table
    homes: Mapping[Key, Home] = field(default_factory=dict)
    """Homes of facts, by the key at which each may be stated again."""
    assumed: tuple[Key, ...] = ()
    """Values that are still assumed."""
    about: str = ""
    """Text shown when it is opened."""
    stated: Table = field(default_factory=dict)
    """``tables`` with every fact that is not stated there filled in from its home."""
    charsets: Mapping[str, CharacterSet] = field(default_factory=dict)
    fonts: Mapping[str, Font] = field(default_factory=dict)
    """Its own fonts that could be read."""
    pictures: Mapping[str, ShownPicture] = field(default_factory=dict)
    unread: Mapping[Key, str] = field(default_factory=dict)
    """Why a font or a picture could not be read, by the key of its table."""
    assets: Assets = field(default_factory=Assets)
    loop: LoopSettings = field(default_factory=LoopSettings)
    controllers: Mapping[str, Controller] = field(default_factory=dict)
    """Its own controllers, besides the built-in ones."""
    traces: Mapping[str, PanelTrace] = field(default_factory=dict)
    """Logic traces of panels, by panel."""
    pack: PackSettings = PackSettings()

    def faces_on(self, panel: str) -> tuple[Face, ...]:
        """The faces of a panel, in the order of the file; the first one is shown."""
        return tuple(face for face in self.faces.values() if face.panel == panel)

    def assumes_rate(self, source: str) -> bool:
        """True where the times of a source's samples are unknown, so that their rate is assumed."""
        return not self.sources[source].time and ("sources", source, "rate") in self.assumed

    def looking_at(self, channel: Channel) -> Project:
        """The project with a channel's fields as in its variant; itself where it is not a variant."""
        if not channel.variant:
            return self
        faces = {name: face.looking_at(channel.name, channel.variant) for name, face in self.faces.items()}
        return replace(self, faces=faces)

    def panels_showing(self, channel: str) -> tuple[str, ...]:
        """Names of the panels that have a face with a field of a channel."""
        return tuple(name for name in self.panels if any(face.fields_of(channel) for face in self.faces_on(name)))

    def fields_on(self, panel: str, channel: str) -> tuple[tuple[Face, FieldItem], ...]:
        """The fields of a panel that show a channel, each with its face: a reading may be there in several forms, as in
        °C on one row and °F on the next."""
        return tuple((face, item) for face in self.faces_on(panel) for item in face.fields_of(channel))
