"""From a symptom to the one mistake that explains it."""
