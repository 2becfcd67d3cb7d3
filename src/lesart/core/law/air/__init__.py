"""Laws of the air: its pressure by height, what moisture is in it, and how cold or warm it feels."""
