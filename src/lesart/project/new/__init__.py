"""A new project from a capture: the kind of file, its content, and the text of a project that reads it."""
