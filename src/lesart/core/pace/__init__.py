"""Pace: the firmware's loop played and judged, scanned digits, and logic traces held against what the model says."""
