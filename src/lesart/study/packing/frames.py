"""The sources of a project whose frames the firmware parses itself."""

from __future__ import annotations

from lesart.core.pack.written.c_source import WIDEST, FramesWanted
from lesart.core.raw.lines.frame_line import shape_of
from lesart.core.raw.lines.line import Line
from lesart.core.raw.messages.checksums import FrameCheck
from lesart.core.raw.messages.frames import FieldSpec
from lesart.project.model import Project
from lesart.study.packing.wanted import code_names

NONE = FrameCheck()


def frames_of(project: Project) -> tuple[FramesWanted, ...]:
    """Sources with fields in frames; floating-point numbers, and values wider than 32 bits, are left to the person."""
    names = code_names(project.sources)
    found = []
    for name, source in project.sources.items():
        if source.line is not None and source.line.kind.name == "serial frames":
            found += _of_line(names[name], name, source.line)
            continue
        specs = [spec for spec in source.fields if spec.bits <= WIDEST and not spec.floating]
        if specs:
            words = code_names(spec.name for spec in specs)
            check = source.decoding.check if source.decoding is not None else NONE
            fields = tuple((words[spec.name], spec) for spec in specs)
            begins = source.decoding.begins if source.decoding is not None else b""
            found.append(FramesWanted(names[name], name, check, fields, begins))
    return tuple(found)


def _of_line(name: str, title: str, line: Line) -> list[FramesWanted]:
    """Frames of a line, with a stream finder where their length and something more is known."""
    specs = [each for each in line.registers if isinstance(each, FieldSpec)]
    carried = [spec for spec in specs if spec.bits <= WIDEST and not spec.floating]
    if not carried:
        return []
    words, shape = code_names(spec.name for spec in carried), shape_of(line)
    fields = tuple((words[spec.name], spec) for spec in carried)
    return [FramesWanted(name, title, shape.check, fields, shape.begins, shape, bytes.fromhex(line["asks"]))]
