"""Integer programs: expressions and statements, the proof that they never overflow, and their text in C and Python."""
