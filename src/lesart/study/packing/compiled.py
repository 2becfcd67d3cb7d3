"""The pack compiled by this machine's compilers, and its vectors run: equal, or the first difference."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
from collections.abc import Mapping
from pathlib import Path

from lesart.core.dataclass_later import dataclass

STRICT = ("-std=c99", "-O2", "-Wall", "-Wextra", "-Wconversion", "-pedantic", "-Werror")
CHECKED = ("-fsanitize=undefined", "-fno-sanitize-recover=all")
"""Options that stop at undefined behaviour."""
SMALL = ("-std=c99", "-Os", "-Wall", "-Wextra", "-Werror")
EMULATOR = "qemu-{}"
"""Emulators by the first word of a compiler's target."""
LONGEST_S = 120
SAID = 400
"""Most characters of a compiler's message that are passed on."""


@dataclass(frozen=True)
class Compiled:
    """``compiler`` by its command; ``ok``; ``says`` the result in a sentence."""

    compiler: str
    ok: bool
    says: str


@dataclass(frozen=True)
class Sizes:
    """Sizes of a pack for another processor: ``target`` by its compiler's widths; bytes of code and tables, and of
    initialised memory."""

    target: str
    code: int
    data: int
    says: str = ""
    ran: str = ""
    """The result of the vectors in an emulator of that processor; empty without one."""

    @property
    def said(self) -> str:
        """The sizes in words."""
        ran = f"; run in an emulator: {self.ran}" if self.ran else ""
        return self.says or f"{self.code} bytes of code and tables, {self.data} of data{ran}"


def host_compiler() -> str | None:
    """The compiler named in ``CC``, or a usual one; None where there is none."""
    named = os.environ.get("CC", "")
    return next((each for each in (named, "cc", "gcc") if each and shutil.which(each)), None)


def compiled_and_run(files: Mapping[str, str]) -> Compiled | None:
    """Built with every warning as an error and undefined behaviour checked, and run. None without a compiler."""
    compiler = host_compiler()
    if compiler is None:
        return None
    with tempfile.TemporaryDirectory(prefix="lesart-pack-") as name:
        folder = Path(name)
        _write(folder, files)
        sources = sorted(each for each in files if each.endswith(".c"))
        for checks in (CHECKED, ()):
            built = _run([compiler, *STRICT, *checks, *sources, "-o", "test_pack"], folder)
            if built.returncode == 0:
                break
        if built.returncode != 0:
            return Compiled(compiler, False, f"{compiler} does not take it: {_first(built.stderr)}")
        ran = _run([str(folder / "test_pack")], folder)
        how = "undefined behaviour checked" if checks else "without checks for undefined behaviour"
        if ran.returncode != 0:
            return Compiled(compiler, False, f"the first difference: {_first(ran.stdout or ran.stderr)}")
        return Compiled(compiler, True, f"equal; built by {compiler} with every warning an error, {how}")


def other_compilers() -> tuple[str, ...]:
    """Cross compilers on this machine: commands that end in ``-gcc`` and are not for this processor."""
    own = _target(host_compiler() or "cc")
    found: dict[str, str] = {}
    for folder in os.environ.get("PATH", "").split(os.pathsep):
        for path in sorted(Path(folder).glob("*-gcc")) if folder else ():
            target = _target(str(path))
            if target and target != own:
                found.setdefault(target, str(path))
    return tuple(found.values())


def sizes_for(compiler: str, files: Mapping[str, str]) -> Sizes:
    """The channels compiled for size, and measured by the compiler's own tool."""
    target = _widths(compiler)
    with tempfile.TemporaryDirectory(prefix="lesart-pack-") as name:
        folder = Path(name)
        _write(folder, files)
        sources = sorted(each for each in files if each.endswith(".c") and each != "test_pack.c")
        built = _run([compiler, *SMALL, "-c", *sources], folder)
        if built.returncode != 0:
            return Sizes(target, 0, 0, f"it does not take it: {_first(built.stderr)}")
        tool = compiler.removesuffix("gcc") + "size"
        measured = _run([tool, *(f"{each.removesuffix('.c')}.o" for each in sources)], folder)
        rows = [line.split() for line in measured.stdout.splitlines()[1:]]
        figures = [(int(row[0]), int(row[1]) + int(row[2])) for row in rows if len(row) > 3 and row[0].isdigit()]
        code, data = sum(code for code, _ in figures), sum(data for _, data in figures)
        return Sizes(target, code, data, ran=_emulated(compiler, files, folder))


def _emulated(compiler: str, files: Mapping[str, str], folder: Path) -> str:
    """The vectors run by a general processor emulator, where there is one and the program can be linked without
    libraries of its own system."""
    emulator = shutil.which(EMULATOR.format(_target(compiler).split("-")[0]))
    if emulator is None:
        return ""
    sources = sorted(each for each in files if each.endswith(".c"))
    if _run([compiler, "-std=c99", "-O1", "-static", *sources, "-o", "test_pack"], folder).returncode != 0:
        return ""
    ran = _run([emulator, str(folder / "test_pack")], folder)
    return "equal" if ran.returncode == 0 else f"the first difference: {_first(ran.stdout or ran.stderr)}"


def _target(compiler: str) -> str:
    return _run([compiler, "-dumpmachine"], Path.cwd()).stdout.strip()


def _widths(compiler: str) -> str:
    """The widths of int and pointer, by which processors are distinguished here."""
    macros = _run([compiler, "-dM", "-E", "-x", "c", os.devnull], Path.cwd()).stdout.split()
    found = {name: macros[place + 1] for place, name in enumerate(macros[:-1]) if name.startswith("__SIZEOF_")}
    int_bytes, pointer_bytes = found.get("__SIZEOF_INT__", ""), found.get("__SIZEOF_POINTER__", "")
    if not (int_bytes.isdigit() and pointer_bytes.isdigit()):
        return "a processor of unknown width"
    return f"an int of {8 * int(int_bytes)} bits and pointers of {8 * int(pointer_bytes)}"


def _write(folder: Path, files: Mapping[str, str]) -> None:
    for name, text in files.items():
        if name.endswith((".c", ".h")):
            (folder / name).write_text(text, encoding="utf-8")


def _run(command: list[str], folder: Path) -> subprocess.CompletedProcess[str]:
    try:
        return subprocess.run(
            command,
            cwd=folder,
            capture_output=True,
            text=True,
            timeout=LONGEST_S,
            check=False,
            stdin=subprocess.DEVNULL,
        )
    except (OSError, subprocess.TimeoutExpired) as error:
        return subprocess.CompletedProcess(command, 1, "", str(error))


def _first(text: str) -> str:
    line = next((each for each in text.splitlines() if each.strip()), "it said nothing")
    return line[:SAID]
