"""A new project from a capture: what the file is, what stands in it, and the text of a project that reads it."""
