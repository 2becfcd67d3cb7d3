"""Glass: panels as physics, faces of items on them, and the one frame that says what is lit."""
