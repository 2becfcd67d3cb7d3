"""Panels in a terminal: as true pixels, as solid blocks, or in little; and which of these fits."""
