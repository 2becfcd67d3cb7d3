"""The wiring map of a segment display: which bit lights which segment, and which position in the chain is which digit.

Modules differ, and the order in a data sheet's picture is not that of the pins. The map is found by lighting one line
after another and stating what lights up.
"""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.glyphs.segments import ALPHABETS, Alphabet

OPEN = "-"
"""A bit that lights nothing."""
POINT, COLON = ".", ":"
BYTE = 8


@dataclass(frozen=True)
class SegmentWiring:
    """``order`` names the segment of each bit from bit 0 on, ``digits`` the digit, from 0 at the left, of each position
    of the chain in sending order. ``lit_by`` is the level that lights a segment: 1, or 0 on a common anode."""

    alphabet: str
    order: tuple[str, ...]
    digits: tuple[int, ...]
    lit_by: int = 1

    @property
    def bytes_a_digit(self) -> int:
        """Bytes for all bits of a digit."""
        return -(-len(self.order) // BYTE)

    def bits(self, mask: int) -> int:
        """The bits sent for a mask of its alphabet, in ``order``; unused lines are dark."""
        alphabet = ALPHABETS[self.alphabet]
        lit = sum(1 << bit for bit, name in enumerate(self.order) if _is_lit(alphabet, mask, name))
        return lit if self.lit_by else lit ^ ((1 << BYTE * self.bytes_a_digit) - 1)

    def mask(self, bits: int) -> int:
        """The mask that bits light."""
        alphabet = ALPHABETS[self.alphabet]
        lit = bits if self.lit_by else bits ^ ((1 << BYTE * self.bytes_a_digit) - 1)
        return sum(_mask_of(alphabet, name) for bit, name in enumerate(self.order) if lit >> bit & 1 and name != OPEN)

    def sent(self, masks: tuple[int, ...]) -> bytes:
        """The bytes of all digits in the order of the chain; with two bytes per digit the higher one first."""
        return b"".join(self.bits(masks[digit]).to_bytes(self.bytes_a_digit, "big") for digit in self.digits)

    def lit(self, sent: bytes) -> tuple[int, ...]:
        """The masks that bytes in the order of the chain light, leftmost digit first."""
        size = self.bytes_a_digit
        masks = [0] * len(self.digits)
        for place, digit in enumerate(self.digits):
            masks[digit] = self.mask(int.from_bytes(sent[place * size : (place + 1) * size], "big"))
        return tuple(masks)


def _is_lit(alphabet: Alphabet, mask: int, name: str) -> bool:
    return name != OPEN and bool(mask & _mask_of(alphabet, name))


def _mask_of(alphabet: Alphabet, name: str) -> int:
    if name == POINT:
        return alphabet.point
    return alphabet.colon if name == COLON else alphabet.mask(name)


def usual_order(alphabet: str) -> str:
    """Segments in order, the point after them."""
    return " ".join((*ALPHABETS[alphabet].segments, POINT))


def usual_wiring() -> SegmentWiring:
    """Four digits of seven segments, from the left."""
    return SegmentWiring("7", tuple(usual_order("7").split()), (0, 1, 2, 3))


def read_order(written: str, alphabet: str) -> tuple[str, ...]:
    """The segment of each bit, from ``a b c d e f g .``. Raises ValueError with a clause."""
    names = tuple(written.split())
    known = (*ALPHABETS[alphabet].segments, POINT, COLON)
    for name in names:
        if name != OPEN and name not in known:
            raise ValueError(
                f'"{name}" is not a segment; it has {" ".join(known)}, and {OPEN} for a bit that lights none'
            )
    twice = [name for name in names if name != OPEN and names.count(name) > 1]
    if twice:
        raise ValueError(f'segment "{twice[0]}" appears twice in the order of bits')
    missing = [name for name in ALPHABETS[alphabet].segments if name not in names]
    if missing:
        raise ValueError(f"segment {missing[0]} has no bit; name all of {' '.join(ALPHABETS[alphabet].segments)}")
    return names


def read_digits(written: str, digits: int) -> tuple[int, ...]:
    """The chain's digits from ``left to right``, ``right to left`` or ``2 1 4 3``, counted from 1 at the left.

    Raises ValueError with a clause.
    """
    if written in ("left to right", "right to left"):
        places = tuple(range(digits))
        return places if written == "left to right" else places[::-1]
    try:
        found = tuple(int(part) - 1 for part in written.split())
    except ValueError:
        found = ()
    if sorted(found) != list(range(digits)):
        wanted = " ".join(str(digit) for digit in range(digits, 0, -1))
        raise ValueError(f'it must be "left to right", "right to left", or each digit once, like "{wanted}"')
    return found
