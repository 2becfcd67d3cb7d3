"""A small project: a channel in each unit, a panel of each kind, and nothing that takes time."""

from __future__ import annotations

from pathlib import Path

from lesart.project.folder.store import FILE

UNITS = ("ct", "V", "mV/V", "mA", "Ω", "s", "Hz", "°C", "K", "kg", "Pa", "hPa", "%", "m", "1", "m/s²", "F", "1/s")
"""Of channels; between them they take every law."""


def small_project() -> str:
    """A channel in each unit, a panel of each kind, and nothing else."""
    channels = [
        f'[channels."in {unit}"]\nsource = "bench"\ncolumn = "x"\nraw_unit = "{unit}"\nunit = "{unit}"\n'
        f'lowest = "0 {unit}"\nhighest = "100 {unit}"\n'
        for unit in UNITS
    ]
    panels = [
        '[panels.stand]\nkind = "segments"\ndigits = 4\n',
        '[panels.door]\nkind = "characters"\n',
        '[panels.mast]\nkind = "pixels"\nwidth = 128\nheight = 64\n',
        '[panels.lid]\nkind = "colours"\nwidth = 96\nheight = 64\n',
    ]
    pictures = '[pictures.leaf]\nfile = "leaf.pbm"\n'
    source = '[sources.bench]\ncapture = "bench.csv"\nheader = 1\nrate = "10 Hz"\n'
    return "\n".join(['lesart = 1\nname = "bench"\n', source, *channels, *panels, pictures])


def make_small(folder: Path) -> Path:
    """Its folder, with the files it reads."""
    (folder / FILE).write_text(small_project())
    (folder / "bench.csv").write_text("x\n" + "\n".join(str(40 + place % 7) for place in range(50)) + "\n")
    (folder / "leaf.pbm").write_text("P1\n2 2\n1 0\n0 1\n")
    return folder
