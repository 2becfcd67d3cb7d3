"""Fields in integers: rounded once, split into digits, and put into cells as the codes that a panel wants."""
