"""The leaves of Fit in the middle of the screen."""
