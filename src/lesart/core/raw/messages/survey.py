"""Who answers on a bus, and what it means when nobody does, or everybody, or somebody else.

The same judgement for units of Modbus that were asked one by one and for addresses of a two-wire bus in a trace.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal

from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import counted

Bus = Literal["Modbus", "two-wire bus"]
LAST_OF_SEVEN_BITS = 0x77
"""Addresses above are reserved by the standard of the two-wire bus."""
EVERYBODY = 8
"""From this many asked addresses, all answering is suspicious: no maker's bus is that full."""


@dataclass(frozen=True)
class Asked:
    """An address, how often it was asked, how often it answered, and how often something else came."""

    address: int
    asked: int = 1
    answered: int = 0
    garbled: int = 0
    says: str = ""


@dataclass(frozen=True)
class Verdict:
    """A mark as of a note, a sentence, and what would mend it; ``remedy`` is empty where nothing is wrong."""

    mark: str
    text: str
    remedy: str = ""


@dataclass(frozen=True)
class Survey:
    """``expected`` are names by the address that each should have; empty where unknown.

    ``unasked`` says why nobody was asked, where that can be told.
    """

    bus: Bus
    asked: tuple[Asked, ...]
    expected: Mapping[int, str]
    unasked: Verdict | None = None

    @property
    def answered(self) -> tuple[Asked, ...]:
        """Those that answered at least once."""
        return tuple(each for each in self.asked if each.answered)


def shown(bus: Bus, address: int) -> str:
    """An address as its bus writes it."""
    return f"0x{address:02X}" if bus == "two-wire bus" else str(address)


def judge(survey: Survey) -> tuple[Verdict, ...]:
    """Verdicts on a survey, the worst first."""
    bus, answered = survey.bus, {each.address for each in survey.answered}
    count, asked = len(answered), len(survey.asked)
    if not asked:
        return (survey.unasked or Verdict("·", "No device was addressed."),)
    garbled = [each for each in survey.asked if each.garbled]
    if not answered:
        return (_garbled(bus, garbled),) if garbled else (_nobody(bus, asked),)
    if count >= EVERYBODY and count == asked:
        return (_everybody(bus, count),)
    found = [_garbled(bus, garbled)] if garbled else []
    missing = {address: name for address, name in survey.expected.items() if address not in answered}
    strangers = sorted(answered - survey.expected.keys())
    found += [_elsewhere(bus, address, name, strangers) for address, name in missing.items()]
    if strangers and survey.expected and not missing:
        found.append(Verdict("·", f"{_list(bus, strangers)} answered too, and no part is known there."))
    if not found:
        whose = _named(bus, answered, survey.expected)
        found.append(Verdict("·", f"{whose} answered, of {asked} asked."))
    return tuple(found)


def _list(bus: Bus, addresses: Iterable[int]) -> str:
    return ", ".join(shown(bus, address) for address in sorted(addresses))


def _named(bus: Bus, addresses: Iterable[int], names: Mapping[int, str]) -> str:
    return ", ".join(
        f"{names[address]} at {shown(bus, address)}" if address in names else shown(bus, address)
        for address in sorted(addresses)
    )


def _nobody(bus: Bus, asked: int) -> Verdict:
    if bus == "Modbus":
        return Verdict(
            "†",
            f"No device answered, of {counted(asked, 'unit')} asked: no power, the two wires of the line changed "
            "over, or another baud rate or parity.",
            "measure the supply at the device; swap the two wires; try 9600 and 19200 baud",
        )
    return Verdict(
        "†",
        f"No device answered, of {asked} addresses asked: data and clock swapped, no supply, or the bus is off.",
        "measure both lines at rest: each must be at its rail's voltage",
    )


def _everybody(bus: Bus, count: int) -> Verdict:
    if bus == "Modbus":
        return Verdict(
            "†",
            f"All {counted(count, 'unit')} answered: the line hears itself, or something answers for everybody.",
            "switch the echo of the adapter off; take gateways off the line",
        )
    return Verdict(
        "†",
        f"All {count} addresses answered: the data line is held low, which looks like an acknowledge.",
        "take parts off the bus one by one until the data line rises; look for a short to ground",
    )


def _garbled(bus: Bus, garbled: list[Asked]) -> Verdict:
    where = _list(bus, (each.address for each in garbled))
    return Verdict(
        "‡",
        f"At {where} something came that is not an answer: two devices at one address, or another baud rate.",
        "take one device off and ask again",
    )


def _elsewhere(bus: Bus, address: int, name: str, strangers: list[int]) -> Verdict:
    """Verdict on an expected device that is silent while others answer."""
    if bus == "two-wire bus" and (eight := _of_eight_bits(address, name, strangers)) is not None:
        return eight
    if strangers:
        there = _list(bus, strangers)
        return Verdict(
            "†",
            f"{name} is expected at {shown(bus, address)}, where no device answered; {there} answered: its address "
            "is set differently.",
            f"set its address to {shown(bus, address)}, or write {shown(bus, strangers[0])}",
        )
    return Verdict(
        "†",
        f"{name} is expected at {shown(bus, address)}, where no device answered, while others did: the bus works.",
        f"check the wires and the supply of {name}",
    )


def _of_eight_bits(address: int, name: str, strangers: list[int]) -> Verdict | None:
    """An 8-bit address as printed on many modules, with the read/write bit after its seven."""
    printed, true, where = shown("two-wire bus", address), shown("two-wire bus", address >> 1), f"{name} is expected at"
    if address >> 1 in strangers:
        return Verdict(
            "‡",
            f"{where} {printed}, where no device answered; {true} answered. That is the same address: {printed} is "
            f"{true} with the bit for reading or writing after it.",
            f"write {true}",
        )
    if address > LAST_OF_SEVEN_BITS:
        last = shown("two-wire bus", LAST_OF_SEVEN_BITS)
        said = f"{where} {printed}, which no part can have: addresses have seven bits and end at {last}."
        fits = address >> 1 <= LAST_OF_SEVEN_BITS
        return Verdict(
            "†", said, f"write {true} if it is printed with eight bits" if fits else f"write one up to {last}"
        )
    return None
