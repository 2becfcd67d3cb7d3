"""Registers of a device on two wires: which bytes are read, and how they make a number."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass

BUS_TYPES = ("uint8", "int8", "uint16", "int16", "uint24", "int24", "uint32", "int32")
BUS_ORDERS = ("high first", "low first")


@dataclass(frozen=True)
class BusRegister:
    """A value of a device: ``register`` is written before it is read; None where it is read without that.

    value = number × ``scale`` + ``offset``, in the unit of its channel.
    """

    name: str
    register: int | None = None
    type: str = "uint16"
    order: str = "high first"
    scale: float = 1.0
    offset: float = 0.0

    @property
    def size(self) -> int:
        """Number of its bytes."""
        return int(self.type.removeprefix("u").removeprefix("int")) // 8

    def value(self, data: bytes) -> float:
        """The value of its ``size`` bytes."""
        order = "little" if self.order == "low first" else "big"
        number = int.from_bytes(data[: self.size], order, signed=not self.type.startswith("u"))  # type: ignore[arg-type]
        # By division where the step is a unit fraction, so that 127 tenths are 12.7.
        parts = round(1 / self.scale) if self.scale and abs(self.scale) <= 1 else 0
        if parts and abs(self.scale * parts - 1) < 1e-12:
            return number / parts + self.offset
        return number * self.scale + self.offset
