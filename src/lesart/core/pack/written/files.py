"""All files of a pack as texts, by name: the same project gives the same bytes."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence

from lesart.core.pace.task import Task
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.machine import Machine
from lesart.core.pack.program.in_c import HELPERS
from lesart.core.pack.program.plain import plain
from lesart.core.pack.written import LIST
from lesart.core.pack.written.c_channel import header_part, marks_said, source
from lesart.core.pack.written.c_edges import EdgesWanted, edges_header, edges_source
from lesart.core.pack.written.c_panel import RUNS, PanelTables, loop_header, panel_header, panel_source
from lesart.core.pack.written.c_source import BITS, FramesWanted, frames_header, frames_source
from lesart.core.pack.written.c_test import c_test
from lesart.core.pack.written.computed import computed
from lesart.core.pack.written.python_module import python_module
from lesart.core.pack.written.readme import readme
from lesart.core.pack.written.vectors import Vector, csv_of

VERSION = 1


def pack_files(
    title: str,
    name: str,
    machine: Machine,
    tested: Sequence[tuple[ChannelForm, Sequence[Vector]]],
    left_out: Mapping[str, str],
    panels: Sequence[PanelTables] = (),
    tasks: Sequence[tuple[str, Task]] = (),
    frames: Sequence[FramesWanted] = (),
    edges: Sequence[EdgesWanted] = (),
) -> dict[str, str]:
    """The files of a pack. ``name`` is an identifier; ``left_out`` says why channels are missing."""
    forms = [form for form, _ in tested]
    header = f"{name}.h"
    said = readme(title, header, machine, forms, left_out, panels)
    files = {"README.md": said, header: header_text(name, title, forms)}
    files["computed.md"] = computed(title, forms)
    for form, made in tested:
        files[f"{form.wanted.name}.c"] = source(form, header)
        files[f"vectors/{form.wanted.name}.csv"] = csv_of(form, made)
    glass = f"{name}_glass.h"
    if panels:
        files[glass] = glass_header(name, panels)
    for panel in panels:
        if panel.runs or panel.pictures:
            files[f"{panel.name}.c"] = panel_source(panel, glass)
    if frames:
        files[f"{name}_frames.h"] = frames_head(name, frames)
    for each in frames:
        files[f"frames_{each.name}.c"] = frames_source(each, f"{name}_frames.h")
    if edges:
        files[f"{name}_edges.h"] = edges_head(name, edges)
    for line in edges:
        files[f"edges_{line.name}.c"] = edges_source(line, f"{name}_edges.h")
    if tasks:
        files[f"{name}_loop.h"] = loop_header(name, tasks)
    files[f"{name}.py"] = python_module(title, forms)
    files["test_pack.c"] = c_test(header, tested)
    content = summary(title, machine, tested, left_out) | {"files": sorted(files)}
    files[LIST] = json.dumps(content, indent=1, ensure_ascii=False) + "\n"
    return files


def glass_header(name: str, panels: Sequence[PanelTables]) -> str:
    """The header for all panels."""
    guard = f"{name.upper()}_GLASS_H"
    parts = ["/* What the panels are sent. Written by Lesart; change the project, not this. */"]
    parts += [f"#ifndef {guard}\n#define {guard}", "#include <stdint.h>", RUNS.rstrip()]
    return "\n\n".join([*parts, *map(panel_header, panels), "#endif"]) + "\n"


def frames_head(name: str, frames: Sequence[FramesWanted]) -> str:
    """The header for frames of all sources."""
    guard = f"{name.upper()}_FRAMES_H"
    parts = ["/* What sensors send, taken apart. Written by Lesart; change the project, not this. */"]
    parts += [f"#ifndef {guard}\n#define {guard}", "#include <stdint.h>", BITS.rstrip()]
    return "\n\n".join([*parts, *map(frames_header, frames), "#endif"]) + "\n"


def edges_head(name: str, edges: Sequence[EdgesWanted]) -> str:
    """The header for edges of all lines."""
    guard = f"{name.upper()}_EDGES_H"
    parts = ["/* What lines tell by their edges. Written by Lesart; change the project, not this. */"]
    parts += [f"#ifndef {guard}\n#define {guard}", "#include <stdint.h>"]
    return "\n\n".join([*parts, *map(edges_header, edges), "#endif"]) + "\n"


def header_text(name: str, title: str, forms: Sequence[ChannelForm]) -> str:
    """The main header."""
    guard = f"{name.upper()}_H"
    parts = [
        f"/* {plain(title)} in whole numbers. Written by Lesart; change the project, not this.\n"
        f" * Marks: {marks_said()}; 0 is good. */",
        f"#ifndef {guard}\n#define {guard}",
        "#include <stdint.h>",
        HELPERS.rstrip(),
        *(header_part(form) for form in forms),
        "#endif",
    ]
    return "\n\n".join(parts) + "\n"


def summary(
    title: str,
    machine: Machine,
    tested: Sequence[tuple[ChannelForm, Sequence[Vector]]],
    left_out: Mapping[str, str],
) -> dict[str, object]:
    """A summary of the pack, for scripts."""
    return {
        "lesart": VERSION,
        "project": title,
        "word": machine.word,
        "multiplier": machine.multiplier,
        "divider": machine.divider,
        "channels": [channel_summary(form, len(made)) for form, made in tested],
        "left_out": dict(left_out),
    }


def channel_summary(form: ChannelForm, vectors: int) -> dict[str, object]:
    """Summary of one channel, in its unit."""
    agreed = form.law.agreement
    return {
        "name": form.wanted.title,
        "in_code": form.wanted.name,
        "of": form.wanted.definition,
        "unit": form.wanted.chain.unit.symbol,
        "step": float(form.scale.step),
        "law": form.law.form.says,
        "entries": form.law.form.entries,
        "raw_from": form.law.first,
        "raw_to": form.law.last,
        "worst_error": agreed.worst,
        "worst_error_last_places": form.worst_places,
        "worst_at_raw": agreed.worst_at,
        "raw_numbers": agreed.codes,
        "every_raw_number": agreed.every,
        "otherwise": agreed.otherwise,
        "memory_bytes": form.memory_bytes,
        "table_bytes": form.table_bytes,
        "operations": form.operations,
        "vectors": vectors,
    }
