"""Formats with named columns: each makes a table of its file."""
