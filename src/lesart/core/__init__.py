"""What Lesart computes: arrays in, results out.

Nothing here opens a file, a socket or a window, and nothing reads a clock: time is an argument. Files belong in
``lesart.project``, what moves in ``lesart.live``, what is open now in ``lesart.desk``.
"""
