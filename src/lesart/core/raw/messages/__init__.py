"""What is said over a bus: frames and their checks, registers, and who answers."""
