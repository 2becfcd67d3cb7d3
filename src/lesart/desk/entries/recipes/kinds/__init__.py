"""The signals there are, each a recipe."""
