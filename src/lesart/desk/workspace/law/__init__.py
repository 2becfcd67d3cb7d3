"""The leaves of Law in the middle of the screen."""
