"""Exported sheets: a calibration, one view, a report of everything."""
