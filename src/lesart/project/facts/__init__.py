"""The home of each fact: stated once, used elsewhere, and compared where it is stated again."""
