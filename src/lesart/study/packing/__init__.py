"""A project packed: what is wanted of each channel, the files of the pack, and the compiler that tries them."""
