"""True pixels in terminals that have them: queries, image protocols, and placement."""
