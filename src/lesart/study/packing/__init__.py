"""Packing a project: requirements of each channel, the files of the pack, and compilers that test them."""
