"""Classic mistakes of twenty-one jobs, each made on purpose: a table of mistake and note."""
