"""What can be added, taken away and edited, by step: a text of the project in, a text out."""
