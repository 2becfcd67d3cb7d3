"""The tables of lesart.toml: each read, checked, and turned into core objects."""
