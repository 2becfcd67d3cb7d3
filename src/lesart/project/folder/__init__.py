"""A project in its folder: saved atomically, locked, watched, completed, exported from."""
