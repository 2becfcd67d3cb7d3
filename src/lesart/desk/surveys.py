"""Surveys from the desk: units of a Modbus line asked one by one, in the background; addresses in a trace."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from lesart.core.errors import LineError
from lesart.core.raw.messages.survey import Asked, Survey
from lesart.core.raw.source import Source

UNITS = tuple(range(1, 248))


@dataclass
class Asking:
    """One survey under way, or done. Appended to by its own thread, read by others."""

    source: Source
    folder: Path
    units: Sequence[int] = UNITS
    asked: list[Asked] = field(default_factory=list)
    trouble: str = ""

    def __post_init__(self) -> None:
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name=f"survey {self.source.name}", daemon=True)
        self._thread.start()

    @property
    def is_running(self) -> bool:
        """True while it is running."""
        return self._thread.is_alive()

    @property
    def survey(self) -> Survey:
        """The survey so far."""
        line = self.source.line
        assert line is not None
        return Survey("Modbus", tuple(self.asked), {line["unit"]: self.source.name})

    def stop(self) -> None:
        """Stop asking."""
        self._ended.set()
        self._thread.join(timeout=5)

    def _run(self) -> None:
        from lesart.live.survey import asked_line

        line = self.source.line
        assert line is not None
        try:
            for each in asked_line(line, self.folder, self.units):
                self.asked.append(each)
                if self._ended.is_set():
                    return
        except LineError as error:
            self.trouble = str(error)


class Surveys:
    """The last survey of each source, by name."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self.by_source: dict[str, Asking] = {}

    @property
    def any_running(self) -> bool:
        """True where any is running."""
        return any(asking.is_running for asking in self.by_source.values())

    def begin(self, source: Source, units: Sequence[int] = UNITS) -> None:
        """Ask every unit of the source's line."""
        self.by_source[source.name] = Asking(source, self._folder, units)

    def close(self) -> None:
        """Stop all surveys."""
        for asking in self.by_source.values():
            asking.stop()
