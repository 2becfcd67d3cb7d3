"""Displays and lamps as people say them."""
