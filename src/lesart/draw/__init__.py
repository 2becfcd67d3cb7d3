"""Drawings: SVG and PDF from core results. The plotting library is imported inside the functions that need it."""
