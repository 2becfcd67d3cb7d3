"""Every spelling of a unit that is known means a unit, and what makers write means theirs."""

from __future__ import annotations

import pytest

from lesart.core.raw.spelled.unit_said import IN_WORDS, unit_in_name, unit_said
from lesart.core.raw.spelled.unit_spellings import AS_WRITTEN, SPELLED
from lesart.core.raw.spelled.units_of_names import QUOTIENTS, SENSES, SUFFIX
from lesart.core.units import parse_unit

ALONE = {"c", "f", "k"}
"""One small letter means a unit only where something says of what."""


@pytest.mark.parametrize("text", sorted({*SPELLED, *AS_WRITTEN, *SUFFIX, *IN_WORDS} - ALONE))
def test_is_a_unit(text: str) -> None:
    """No spelling in the tables leads to a unit that there is not."""
    assert unit_said(text) is not None


@pytest.mark.parametrize("ending", sorted(QUOTIENTS))
def test_a_quotient_is_one_in_a_name(ending: str) -> None:
    """One unit over another, read with both of them; over minutes only of what flows."""
    over, below = QUOTIENTS[ending].split("/")
    wanted = parse_unit(over).scale / parse_unit(below).scale
    found = unit_in_name(f"flow_{ending}")
    assert found is not None
    assert found.scale == wanted


def test_letters_of_senses_are_units() -> None:
    """The unit of a letter is one, whatever the name speaks of."""
    assert all(parse_unit(symbol).symbol == symbol for _, units in SENSES for symbol in units.values())


@pytest.mark.parametrize(
    ("name", "unit"),
    [
        ("mv", "mV"),
        ("MV", None),
        ("hz", "Hz"),
        ("v", None),
        ("ma", None),
        ("flow (gpm)", "gal/min"),
        ("dose [uSv/h]", "µSv/h"),
        ("radon Bq/m3", "Bq/m^3"),
        ("torque (Nm)", "N·m"),
        ("turbidity_ntu", "NTU"),
        ("voc ppb", "ppb"),
        ("vacuum [mTorr]", "mTorr"),
        ("gyro_x_mdps", "m°/s"),
        ("mag_x_gauss", "Gs"),
        ("fan cfm", "ft^3/min"),
        ("strain (µε)", "µε"),
        ("heart rate (1/min)", "1/min"),
        ("free (kB)", "kB"),
        ("ec_us_cm", "µS/cm"),
        ("cond_mS_cm", "mS/cm"),
        ("pm25_ug_m3", "µg/m^3"),
        ("flow_l_min", "L/min"),
        ("flow_l_per_min", "L/min"),
        ("flow_lpm", "L/min"),
        ("level_mm_min", None),
        ("temp_c_min", None),
        ("wind_m_per_s", "m/s"),
        ("wind_ms", "m/s"),
        ("uptime_ms", "ms"),
        ("ax_ms2", "m/s^2"),
        ("speed_kmh", "km/h"),
        ("heading_deg", "°"),
        ("temp_deg", None),
        ("yaw_deg_s", "°/s"),
        ("hr_bpm", "1/min"),
        ("m_s", None),
        ("mx_uT", "µT"),
        ("ec_uS", "µS"),
        ("ec_ms", "mS"),
        ("dt_us", "µs"),
        ("dt_uS", "µs"),
        ("delay_mS", "ms"),
        ("cond_mS", "mS"),
        ("hand_l_h", None),
        ("pump_l_h", "L/h"),
        ("rssi_dBm", "dBm"),
        ("rssi (dBm)", "dBm"),
        ("gas_kohms", "kΩ"),
    ],
)
def test_as_makers_write_it(name: str, unit: str | None) -> None:
    """The head of a column, and the unit that it says."""
    found = unit_in_name(name)
    assert (found.symbol if found else None) == unit
