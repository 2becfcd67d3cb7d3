"""Rows of cells in lines of text: how they are written, small and large."""
