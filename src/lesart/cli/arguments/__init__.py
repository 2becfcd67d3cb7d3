"""What may be typed behind ``lesart``: nothing heavy is imported to read it."""
