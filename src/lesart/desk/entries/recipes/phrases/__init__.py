"""A signal as people say it, in the words of a recipe."""
