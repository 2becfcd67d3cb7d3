"""``lesart fit``: a channel's field over its whole range, and at every ugly value."""

from __future__ import annotations

import argparse
import itertools
from collections.abc import Sequence

from lesart.cli.printed.answer import print_json
from lesart.cli.project import channel_named
from lesart.core.errors import RequestError
from lesart.core.fit.border import border, end_said, said
from lesart.core.fit.field import Field
from lesart.core.fit.film_strip import film_strip
from lesart.core.fit.sweep import Piece, sweep
from lesart.core.quantity import counted
from lesart.desk.opening import look_at
from lesart.project.model import Channel, Project


def run(options: argparse.Namespace) -> int:
    """Print the film strip and the sweep; 1 where a value of the range does not fit."""
    project = look_at(options.project).state.project
    channel = channel_named(project, options.channel)
    field, joined = _field(project, channel, options.panel)
    stills = film_strip(field, channel.lowest, channel.highest, (channel.lowest + channel.highest) / 2, joined=joined)
    pieces = sweep(field, channel.lowest, channel.highest, joined=joined)
    fits = all(piece.shape[0] == "value" for piece in pieces)
    if options.json:
        found = {
            "channel": channel.name,
            "unit": field.unit_shown.symbol,
            "width": field.width,
            "strip": [
                {
                    "title": each.title,
                    "value": None if each.value is None else _shown(field, each.value),
                    "text": each.shown.text,
                    "state": each.shown.state,
                }
                for each in stills
            ],
            "sweep": [
                {
                    "from": _shown(field, each.first),
                    "to": _shown(field, each.last),
                    "state": each.shape[0],
                    "first": each.at_first.text,
                    "last": each.at_last.text,
                }
                for each in pieces
            ],
        }
        print_json(found)
        return 0 if fits else 1
    for still in stills:
        value = "" if still.said is None else end_said(field, still.said)
        print(f"{still.title:<28}{value:>24}   [{still.shown.text}]")
    print(f"\nthe range in {counted(len(pieces), 'piece')}")
    for piece, (first, last) in zip(pieces, _ends(field, pieces), strict=True):
        state = "" if piece.shape[0] == "value" else f"   {piece.shape[0]}"
        print(f"{first:>24} … {last:<24}   [{piece.at_first.text}] … [{piece.at_last.text}]{state}")
    return 0 if fits else 1


def _ends(field: Field, pieces: Sequence[Piece]) -> list[tuple[str, str]]:
    """The range of each piece."""
    borders = [border(field, left.last, right.first) for left, right in itertools.pairwise(pieces)]
    firsts = [said(field, pieces[0].first), *(high for _, high in borders)]
    lasts = [*(low for low, _ in borders), said(field, pieces[-1].last)]
    return [(end_said(field, first), end_said(field, last)) for first, last in zip(firsts, lasts, strict=True)]


def _shown(field: Field, value: float) -> float:
    return float(field.shown_value(value))


def _field(project: Project, channel: Channel, panel: str | None) -> tuple[Field, str]:
    """The field on a panel, or on the first that shows the channel, or the channel's own; and marks that share a
    cell."""
    showing = project.panels_showing(channel.name)
    if panel is not None and panel not in showing:
        known = ", ".join(showing) or "no panel"
        raise RequestError(f'panel "{panel}" does not show {channel.name}; {known} does.')
    name = panel or next(iter(showing), None)
    if name is None:
        return channel.field, ""
    _, item = project.fields_on(name, channel.name)[0]
    return item.field, project.panels[name].joined
