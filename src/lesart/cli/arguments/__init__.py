"""What may be typed after ``lesart``: nothing heavy is imported to read it."""
