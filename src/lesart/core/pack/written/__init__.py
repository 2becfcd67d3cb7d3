"""What a pack consists of as texts: C, Python, vectors, and what a person reads."""
