"""Pages of the guide that are made from the records the program itself reads by, computes by and is asked by.

``make reference`` writes them; a test fails while one says something else than the program.
"""
