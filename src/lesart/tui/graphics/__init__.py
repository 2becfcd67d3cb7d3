"""True pixels in terminals that have them: what they answer, how pictures are written, and where they stand."""
