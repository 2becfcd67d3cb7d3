"""The tables of graphic items: boxes, trends, dials, spectra, bubbles and pictures."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import Problem
from lesart.core.glass.faces.shapes import Box, Bubble, Dial, PictureItem, Scale, Shape, Spectrum, Trend
from lesart.core.parameters import shown
from lesart.core.quantity import plain_number
from lesart.core.raw.spectrum import Bands
from lesart.project.assets.shown_picture import ShownPicture
from lesart.project.model import Channel, Table
from lesart.project.tables.list_tables import in_unit

Values = Mapping[str, Any]
AT_ONCE_S = 0.1
"""Default duration of a frame, where neither the file nor the item has one."""


@dataclass(frozen=True)
class Known:
    """What items may name: channels and pictures as checked, and the whole file."""

    channels: Mapping[str, Channel]
    pictures: Mapping[str, ShownPicture]
    tables: Table


def channel_is_known(name: str, place: str, tables: Table, problems: list[Problem]) -> bool:
    """True where there is such a channel in the file; else a problem."""
    if name in tables.get("channels", {}):
        return True
    known = ", ".join(tables.get("channels", {})) or "none"
    problems.append(Problem(place, shown(name), f"the project's channels are {known}"))
    return False


def build_shape(kind: str, values: Values, place: str, known: Known, problems: list[Problem]) -> Shape | None:
    """The item, or None with its problems; only None where a channel has problems of its own."""
    common = {name: values[name] for name in ("row", "column", "importance", "pinned")}
    if kind == "picture":
        return _picture(values, place, known, problems, common)
    common |= {name: values[name] for name in ("width", "tall")}
    if kind == "box":
        return Box(filled=values["filled"], **common)
    if kind == "bubble":
        return _bubble(values, place, known, problems, common)
    name = values["channel"]
    if not channel_is_known(name, f"{place}.channel", known.tables, problems) or name not in known.channels:
        return None
    if kind == "spectrum":
        if not values["lowest"] < values["highest"]:
            problems.append(
                Problem(f"{place}.highest", f"{plain_number(values['highest'])} Hz", "it must be above lowest")
            )
            return None
        bands = Bands(values["span"], values["bars"], values["lowest"], values["highest"])
        return Spectrum(channel=name, bands=bands, range_db=values["range"], **common)
    if kind == "dial":
        scale = _scale(known.channels[name], values, ("lowest", "highest"), place, problems)
        return None if scale is None else Dial(channel=name, scale=scale, sweep_deg=values["sweep"], **common)
    return _trend(values, known.channels[name], place, problems, common)


def _trend(
    values: Values, channel: Channel, place: str, problems: list[Problem], common: dict[str, Any]
) -> Trend | None:
    low, high = (
        None if values[name] is None else in_unit(values[name], channel.unit, f"{place}.{name}", problems)
        for name in ("lowest", "highest")
    )
    if low is not None and high is not None and not low < high:
        problems.append(Problem(f"{place}.highest", f"{plain_number(high)}", "it must be above lowest"))
        return None
    return Trend(channel=channel.name, span_s=values["span"], low=low, high=high, **common)


def _scale(
    channel: Channel, values: Values, names: tuple[str, str], place: str, problems: list[Problem]
) -> Scale | None:
    """The scale between two written ends, or the channel's own."""
    ends = [channel.lowest, channel.highest]
    for at, name in enumerate(names):
        if values[name] is not None:
            ends[at] = in_unit(values[name], channel.unit, f"{place}.{name}", problems)
    if not ends[0] < ends[1]:
        problems.append(
            Problem(
                f"{place}.{names[1]}",
                f"{plain_number(ends[1])}",
                f"it must be above {names[0]}, {plain_number(ends[0])}",
            )
        )
        return None
    return Scale(channel.name, ends[0], ends[1], channel.field.stale_after_s)


def _bubble(values: Values, place: str, known: Known, problems: list[Problem], common: dict[str, Any]) -> Bubble | None:
    scales: dict[str, Scale | None] = {}
    for key, prefix in (("across", "across"), ("up", "up"), ("sized_by", "size")):
        name = values[key]
        if key == "sized_by" and not name:
            scales[key] = None
            continue
        if not channel_is_known(name, f"{place}.{key}", known.tables, problems) or name not in known.channels:
            return None
        scales[key] = _scale(known.channels[name], values, (f"{prefix}_from", f"{prefix}_to"), place, problems)
        if scales[key] is None:
            return None
    across, up = scales["across"], scales["up"]
    assert across is not None
    assert up is not None
    return Bubble(across=across, up=up, sized_by=scales["sized_by"], size=values["size"], **common)


def _picture(
    values: Values, place: str, known: Known, problems: list[Problem], common: dict[str, Any]
) -> PictureItem | None:
    name = values["picture"]
    if name not in known.tables.get("pictures", {}):
        names = ", ".join(known.tables.get("pictures", {})) or "none"
        problems.append(Problem(f"{place}.picture", shown(name), f"the project's pictures are {names}"))
        return None
    if name not in known.pictures:
        return None
    found = known.pictures[name]
    lasts = tuple(values["every"] or each or AT_ONCE_S for each in found.durations_s)
    first = found.frames[0]
    return PictureItem(
        picture=name, frames=found.frames, durations_s=lasts, width=first.width, tall=first.height, **common
    )
