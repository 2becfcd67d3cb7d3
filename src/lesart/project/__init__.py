"""The project on disk: ``lesart.toml`` read, checked and saved with its comments; captures read.

What is open on the desk now, with cursor and undo, belongs in ``lesart.desk``.
"""
