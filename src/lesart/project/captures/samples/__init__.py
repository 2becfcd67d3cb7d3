"""Plain sequences of numbers: sound, arrays, raw bytes."""
