"""What a panel is: segments, characters or pixels, its pins, its memory and what its glass shows."""
