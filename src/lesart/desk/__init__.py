"""The desk: what is open now. Project, cursor, hand, undo, results, and the views the screens draw. No terminal here.

Nothing is imported in this file: the screen takes ``lesart.study.views`` before its first picture, and numpy must not
come with it.
"""
