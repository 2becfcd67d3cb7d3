"""What can be wrong between laws of the air: moisture worked out from how warm the air feels, not from how warm it
is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lesart.core.law.air.felt import APPARENT, WIND_CHILL
from lesart.core.law.air.humidity import ABSOLUTE, DEFICIT, DEW_POINT
from lesart.core.law.record import LawEntry
from lesart.core.notes import FAULT, Key, Note
from lesart.core.parameters import ChannelName
from lesart.core.step import Step

FELT = (WIND_CHILL.name, APPARENT.name)
OF_AIR = (DEW_POINT.name, ABSOLUTE.name, DEFICIT.name)


def inspect_air(name: str, key: Key, laws: Sequence[LawEntry], kinds: Mapping[str, Sequence[str]]) -> list[Note]:
    """Notes on the laws of a channel, which begin at ``key``; ``kinds`` are those of other channels' laws by name."""
    notes = []
    for place, entry in enumerate(laws):
        air = entry.values.get("air")
        if entry.kind.name not in OF_AIR or not isinstance(air, ChannelName):
            continue
        felt = next((kind for kind in kinds.get(str(air), ()) if kind in FELT), None)
        if felt is not None:
            notes.append(
                Note(
                    FAULT,
                    Step.LAW,
                    name,
                    f"{name}: its {entry.kind.name} takes the air to be as warm as {air} reads, which is its {felt}.",
                    remedy=f"give {felt} a channel of its own: + in 2 Raw, as felt = {air}",
                    place=(*key, place, "air"),
                )
            )
    return notes
