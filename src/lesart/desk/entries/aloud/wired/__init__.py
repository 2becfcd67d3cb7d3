"""The hook-up as people say it: parts, connections, pins of the board."""
