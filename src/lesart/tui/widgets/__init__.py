"""Widgets that any part of the screen may use."""
