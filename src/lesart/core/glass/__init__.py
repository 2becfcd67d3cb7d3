"""Glass: panels as physics, faces with items on them, and the frame of what is lit."""
