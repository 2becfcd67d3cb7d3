"""Lines that talk: text with numbers in it, frames of bytes, sentences; what came, and how it is heard."""
