"""Fields in whole numbers: rounded once, cut into digits, and put into cells as the codes that a panel wants."""
