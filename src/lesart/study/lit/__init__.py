"""A lit panel dot by dot: the lattice that every way to show it is drawn from, and true pixels."""
