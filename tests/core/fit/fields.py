"""Fields for tests."""

from __future__ import annotations

from hypothesis import strategies as st

from lesart.core.fit.field import PARAMETERS, Field, build_field
from lesart.core.fit.rounding import MODES
from lesart.core.parameters import read_table
from lesart.core.units import parse_unit


def field_of(unit: str = "kg", shown: str = "kg", **written: object) -> Field:
    """A field as the project file would make it."""
    values, problems = read_table(PARAMETERS, written, "f")
    assert not problems, problems
    return build_field(values, parse_unit(unit), parse_unit(shown))


MARKS = (
    {"point": "point", "group": "none"},
    {"point": "comma", "group": "none"},
    {"point": "point", "group": "blank"},
    {"point": "point", "group": "comma"},
    {"point": "comma", "group": "point"},
    {"point": "comma", "group": "apostrophe"},
)


@st.composite
def fields(draw: st.DrawFn) -> Field:
    """Any field."""
    prefix = draw(st.sampled_from(["none", "by range"]))
    return field_of(
        *(("g", "g") if prefix == "by range" else ("kg", "kg")),
        prefix=prefix,
        width=draw(st.integers(1, 12)),
        decimals=draw(st.integers(0, 6)),
        align=draw(st.sampled_from(["left", "right", "centre"])),
        pad=draw(st.sampled_from(["blank", "zero"])),
        sign=draw(st.sampled_from(["minus only", "always", "never"])),
        round=draw(st.sampled_from(sorted(MODES))),
        unit_text=draw(st.sampled_from(["", "g", "°C", " J"])),
        unit_place=draw(st.sampled_from(["behind", "before"])),
        **draw(st.sampled_from(MARKS)),
        decimals_are=draw(st.sampled_from(["fixed", "as many as fit"])),
    )
