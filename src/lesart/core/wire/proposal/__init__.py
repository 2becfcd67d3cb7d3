"""A hook-up proposed: every open pin joined by its role."""
