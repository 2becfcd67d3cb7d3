"""The leaves of Calm in the middle of the screen."""
