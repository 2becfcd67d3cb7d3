"""What goes over the wires to a panel, and what its controller makes of it."""
