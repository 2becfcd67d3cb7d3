"""Fit: a reading becomes exactly as many cells as its field has, at every value."""
