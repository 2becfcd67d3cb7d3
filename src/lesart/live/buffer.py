"""The data of a live line as growing columns. Earlier views of them stay unchanged."""

from __future__ import annotations

import threading

import numpy as np

from lesart.core.block import Block
from lesart.core.raw.lines.received import Received

FIRST_ROWS = 4096
MOST_ROWS = 1 << 20
"""Most rows kept in view; the older half is dropped when full. A recording keeps everything."""


class Buffer:
    """Appended to by the listening thread, read by others."""

    def __init__(self, most_rows: int = MOST_ROWS) -> None:
        self._lock = threading.Lock()
        self._most = most_rows
        self._columns: tuple[str, ...] = ()
        self._rows = 0
        self._t = np.empty(0)
        self._x = np.empty((0, 0))
        self._mark = np.empty((0, 0), np.uint8)
        self._gone = 0

    def append(self, heard: Received) -> None:
        """Append the rows of a batch."""
        if not heard.t:
            return
        values = np.array(heard.values, np.float64).T
        marks = np.where(np.isnan(values), np.array(heard.marks, np.uint8), np.uint8(0))
        with self._lock:
            if not self._columns:
                self._columns = heard.columns
            end = self._rows + len(heard.t)
            if end > len(self._t):
                self._make_room(len(heard.t))
                end = self._rows + len(heard.t)
            self._t[self._rows : end] = heard.t
            self._x[:, self._rows : end] = values
            self._mark[:, self._rows : end] = marks
            self._rows = end

    def _make_room(self, more: int) -> None:
        """Double the room, in new arrays, because others read the old ones; or drop the older half."""
        keep = self._rows
        if self._rows + more > self._most:
            keep = self._rows // 2
            self._gone += self._rows - keep
        room = max(min(max(FIRST_ROWS, 2 * keep), self._most), keep + more)
        width, kept = len(self._columns), slice(self._rows - keep, self._rows)
        t, x, mark = np.empty(room), np.empty((width, room)), np.empty((width, room), np.uint8)
        if keep:
            t[:keep], x[:, :keep], mark[:, :keep] = self._t[kept], self._x[:, kept], self._mark[:, kept]
        self._t, self._x, self._mark, self._rows = t, x, mark, keep

    def view(self) -> tuple[int, dict[str, Block]]:
        """The columns so far, and the number of rows dropped before them."""
        with self._lock:
            rows = self._rows
            t = self._t[:rows]
            return self._gone, {
                name: Block(t, self._x[place, :rows], self._mark[place, :rows])
                for place, name in enumerate(self._columns)
            }
