"""The tables of lesart.toml: each read, checked, and made into what the core computes with."""
