"""A small fuzzer: absurd input for every place that takes any, of which only a sentence may come.

``make fuzz`` runs it for ten minutes; ``tests/test_fuzz.py`` a few seconds of it. What it finds becomes a test.
"""
