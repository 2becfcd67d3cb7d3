"""The leaves of True in the middle of the screen."""
