"""The texts of a pack: C, Python, vectors, and pages for a person."""

LIST = "pack.json"
"""The file that marks a folder as a pack, and lists its files."""
