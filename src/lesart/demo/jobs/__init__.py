"""Twenty-one worked jobs, each a small project of the linden yard: what is measured, how, and what shows it."""
