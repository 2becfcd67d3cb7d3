"""Sheets that go out: one of a calibration, one view, a report of all."""
