"""Tests of what is read from files, by format."""
