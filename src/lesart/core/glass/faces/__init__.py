"""What is written on a panel: items, fields and pictures, placed, drawn, and inspected."""
