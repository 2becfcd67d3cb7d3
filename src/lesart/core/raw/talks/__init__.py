"""What the lines of an unknown trace talk: by how they behave first, and by what they are called second.

Each module holds what some kinds of talk are known by; ``recognise`` lets them all look and takes the likeliest that
share no line.
"""
