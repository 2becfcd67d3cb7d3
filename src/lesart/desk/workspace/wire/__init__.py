"""The leaves of Wire in the middle of the screen."""
