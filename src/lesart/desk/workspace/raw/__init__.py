"""The leaves of Raw in the middle of the screen."""
