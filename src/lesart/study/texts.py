"""Texts other than readings: this computer's name and address, date and time."""

from __future__ import annotations

import ipaddress
import socket
from collections.abc import Iterable
from datetime import datetime, timedelta
from functools import lru_cache

from lesart.core.fit.field import Reading
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.item_parameters import ADDRESS, DATE, DATE_AND_TIME, HOST, TIME_OF_DAY
from lesart.core.glass.faces.items import DATED, TextItem

FORMATS = {DATE_AND_TIME: "%Y-%m-%d %H:%M:%S", DATE: "%Y-%m-%d", TIME_OF_DAY: "%H:%M:%S"}
ASKED_EVERY_S = 10


def texts_at(faces: Iterable[Face], cursor_s: float, now: datetime | None) -> dict[str, Reading]:
    """Texts by the key of each item that shows one, at a time of the captures; ``now`` while lines are followed."""
    found: dict[str, Reading] = {}
    for item in (item for face in faces for item in face.items if isinstance(item, TextItem)):
        text = _text(item, cursor_s, now)
        if text:
            found[item.key] = Reading(0.0, text=text)
    return found


def _text(item: TextItem, cursor_s: float, now: datetime | None) -> str:
    if item.source in DATED:
        at = now if now is not None else _moment(item.begins, cursor_s)
        return at.strftime(FORMATS[item.source]) if at is not None else ""
    asked = round(now.timestamp()) // ASKED_EVERY_S if now is not None else 0
    return {HOST: _host_name, ADDRESS: _address}.get(item.source, lambda _: "")(asked)


def _moment(begins: str, cursor_s: float) -> datetime | None:
    try:
        return datetime.fromisoformat(begins) + timedelta(seconds=cursor_s) if begins else None
    except OverflowError:
        return None


@lru_cache(maxsize=4)
def _host_name(asked: int) -> str:
    return socket.gethostname()


@lru_cache(maxsize=4)
def _address(asked: int) -> str:
    """Its first reachable address; empty without a network."""
    import psutil

    every = (each.address for card in psutil.net_if_addrs().values() for each in card if each.family == socket.AF_INET)
    return next((address for address in every if not ipaddress.ip_address(address).is_loopback), "")
