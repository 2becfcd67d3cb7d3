"""Pace: the firmware's loop played and judged, scanned digits, and logic traces compared with what the model says."""
