"""Panels in a terminal: as true pixels, as solid blocks, or in miniature; and which of these fits."""
