"""Captures: found, read, cached and written, one module per format."""
