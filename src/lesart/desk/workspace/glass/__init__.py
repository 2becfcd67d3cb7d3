"""The leaves of Glass in the middle of the screen."""
