"""Output of commands: answers and notes, rows of tables, and the two outlets that everything goes through."""
