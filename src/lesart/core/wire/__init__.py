"""Wire: parts, pins and rails, and whether they can work. Empty until hook-ups are part of a project."""
