"""Rows of cells in lines of text, small files and large ones."""
