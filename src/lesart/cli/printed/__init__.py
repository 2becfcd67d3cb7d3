"""What commands print: answers and notes, rows of tables, and the two outlets that all of it goes through."""
