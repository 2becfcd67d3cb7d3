"""The catalogue: generic kinds of parts, described by what they are and how they speak, never by a maker's name.

A person's own kinds are in the project and are looked up first. What differs between modules of one kind is stated with
the kind (``orders``), because the print on the module counts and not the picture in a book.
"""

from lesart.core.wire.catalogue.between import BETWEEN
from lesart.core.wire.catalogue.boards import BOARDS
from lesart.core.wire.catalogue.displays import DISPLAYS
from lesart.core.wire.catalogue.sensors import SENSORS
from lesart.core.wire.part import PartKind

KINDS: dict[str, PartKind] = {kind.name: kind for kind in (*BOARDS, *SENSORS, *DISPLAYS, *BETWEEN)}
"""By the name that stands as ``kind`` in the project file."""
