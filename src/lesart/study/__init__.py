"""A project worked out, open or not: its chains run, its notes, verdicts, views and drawings. It knows no desk."""
