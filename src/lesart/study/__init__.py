"""A project computed, open or not: its chains run, its notes, verdicts, views and drawings. Independent of the desk."""
