"""The texts of a pack: C, Python, vectors, and pages for a person."""
