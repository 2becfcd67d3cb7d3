"""The home of each fact of the bench: stated once, taken by others, and compared where it is stated again."""
