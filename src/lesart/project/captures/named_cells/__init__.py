"""Formats whose cells have names: each makes a table of what is in its file."""
