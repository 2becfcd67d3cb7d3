"""Lesart follows one sensor reading from the wire to the glass."""

__version__ = "0.1.0"
FORMAT_VERSION = 1
"""Version of the project file and of every JSON answer. It changes only with their meaning."""
