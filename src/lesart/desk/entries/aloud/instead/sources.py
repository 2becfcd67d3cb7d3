"""Requests to 2 Raw that are neither a column, a capture nor a line: which value, key or step does it."""

from __future__ import annotations

from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of

ASKS: Asks = (
    (
        r"(?:time|timestamps?|date)\b",
        "which column is the time, and how it is written, are values of the source; tab goes to them",
    ),
    (r"(?:copy|duplicate|clone)\b", "C copies the chosen channel"),
    (
        r"(?:delete|remove)\s+(?:the\s+)?(?:channel|column|it|this)\b|delete\s+\S+$",
        "delete takes the chosen channel away",
    ),
    (
        r"(?:bytes?|bits?)\s+\d",
        "bytes are those of frames, as a decoder or a dump gives them; here are columns of numbers",
    ),
    (r"(?:rename|call(?:ed)?)\b|name\s+(?:it|is)\b", "R renames the channel"),
    (
        r"(?:skip|ignore|drop|without|remove)\s+(?:the\s+)?(?:first|initial|\d)|settl|warm",
        "what comes before it settles is marked: + settles in 10 s",
    ),
    (
        r"(?:only|trim|cut|crop|slice|select|range)\b|from\s+.*\bto\b|"
        r"(?:the\s+)?(?:last|first)\s+(?:\d|hour|minute|day|second)",
        "a capture is kept whole; [ and ] zoom, and lesart read --from --to writes a part of it",
    ),
    (
        r"(?:delimiter|separator|semicolon|tab|decimal|comma|encoding|header|quote|columns?\s+are)\b",
        "how cells are separated and decimals are written are values of the source; tab goes to them",
    ),
    (
        r"(?:blank|empty|missing|nan)\b",
        "cells without a number are no reading anyway; for a number that means none, type -127 is no reading",
    ),
    (
        r"(?:drop|remove|no)\s+duplicates?|sort|order\b|dedup",
        "rows are read as they are; notes name those that come twice or go back in time",
    ),
    (
        r"(?:append|merge|join|concat|combine|add\s+(?:a\s+)?file|load|open|import)\b",
        "for another capture type its file, like captures/more.csv; lesart read --over FILES goes through many",
    ),
    (r"(?:record|start\s+record|save\s+the\s+line|log\b)", "r records the channel's line, or stops"),
    (
        r"(?:live|follow|listen|connect|stream|monitor|start|stop|pause)\b",
        "o listens to the channel's line, or stops",
    ),
    (r"(?:play|replay|run)\b", "space plays the capture, and stops it"),
    (
        r"mqtt\b",
        "say the broker and the topic, like mqtt 192.168.1.5 topic yard/air",
    ),
    (
        r"(?:https?:|www\.|tcp\b|telnet\b|websocket|ws:|bluetooth|ble\b)",
        "a network is heard by UDP, MQTT or Modbus, like udp port 5000 or mqtt 192.168.1.5 topic yard/air",
    ),
    (
        r"(?:modbus|(?:holding|input)\s+registers?|registers?)\b",
        "say the device and the register, like modbus 192.168.1.7 unit 3, holding register 10",
    ),
    (
        r"(?:too\s+old|stale|time-?out)\b",
        "for readings that are too old the field has a rule: + stale after 5 s in 6 Fit",
    ),
    (r"(?:analog\w*\s+)?pin\b|gpio|a\d\b", "its pin is set in 1 Wire, like analog sensor on a1"),
    (r"(?:use|take|read|show|select)\b", "name a column by its name or its number, like column 2"),
)


def done_otherwise(typed: str) -> str:
    """How it is done; empty where it is not recognised."""
    return first_of(ASKS, bare(typed))
