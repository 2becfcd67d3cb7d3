"""The leaves of Pace in the middle of the screen."""
