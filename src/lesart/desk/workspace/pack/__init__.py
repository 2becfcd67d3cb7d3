"""The leaves of Pack in the middle of the screen."""
