"""Twenty-one jobs worked out, each a small project of the linden yard: what is measured, how, and what shows it."""
