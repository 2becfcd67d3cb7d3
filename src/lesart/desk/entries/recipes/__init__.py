"""A signal or a display described in a line: laws, parts, range, calm and field, or panel, part and face."""
