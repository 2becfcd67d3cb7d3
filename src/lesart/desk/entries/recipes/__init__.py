"""What a signal or a display is, said in a line: laws, parts, range, calm and field, or panel, part and face."""
