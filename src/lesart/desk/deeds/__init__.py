"""What keys do at the desk beyond looking and editing a value: a module a step, and one for what lines can do."""
