"""Writing and compiling the pack from the desk, in the background."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field
from pathlib import Path

from lesart.core.errors import LesartError
from lesart.core.quantity import counted
from lesart.project.model import Project
from lesart.study.written_pack import FOLDER


@dataclass
class Packing:
    """One run, under way or done. Written by its own thread, looked at by others.

    ``doing`` is what it is at; ``done`` what came of it, a sentence each; ``trouble`` why it ended early.
    """

    folder: Path
    project: Project
    doing: str = "reading"
    done: list[str] = field(default_factory=list)
    left_out: dict[str, str] = field(default_factory=dict)
    trouble: str = ""
    is_equal: bool | None = None

    def __post_init__(self) -> None:
        self._thread = threading.Thread(target=self._run, name="pack", daemon=True)
        self._thread.start()

    @property
    def is_running(self) -> bool:
        """True while it is running."""
        return self._thread.is_alive()

    def wait(self, seconds: float) -> None:
        """Wait until it is done, at most this long."""
        self._thread.join(seconds)

    def _run(self) -> None:
        from lesart.study.packing.compiled import compiled_and_run, other_compilers, sizes_for
        from lesart.study.packing.folder import write_pack
        from lesart.study.packing.made import packed
        from lesart.study.whole_bench import bench_at

        def told(name: str) -> None:
            self.doing = f"packing {name}"

        try:
            pack = packed(self.project, bench_at(self.folder), self.project.pack, told=told)
            self.left_out = {**pack.left_out, **pack.undrawn}
            files = pack.files
            self.doing = "writing"
            write_pack(self.folder / FOLDER, files)
            self.done.append(
                f"{counted(len(files), 'file')} written into {FOLDER}/, {counted(len(pack.channels), 'channel')}"
            )
            self.doing = "compiling"
            built = compiled_and_run(files)
            self.is_equal = None if built is None else built.ok
            self.done.append(
                "no C compiler here; README.md says how to compare elsewhere" if built is None else built.says
            )
            for compiler in other_compilers():
                sizes = sizes_for(compiler, files)
                self.done.append(f"for {sizes.target}: {sizes.said}")
        except LesartError as error:
            self.trouble = str(error)
        self.doing = ""
