"""Fonts and pictures that a project names."""
