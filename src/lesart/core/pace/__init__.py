"""Pace: is the glass refreshed often enough? Scanned digits first; loops and traces join as they are built."""
