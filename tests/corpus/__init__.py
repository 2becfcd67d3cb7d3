"""Files as other programs write them, each a habit, and what a careful person reads in each."""
