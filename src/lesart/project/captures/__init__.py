"""Captures: found, read, kept and written, one module a format."""
