"""What keys do at the desk beyond looking and editing a value: one module per step, and one for live lines."""
