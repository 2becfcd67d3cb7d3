"""Filters and alarms in whole numbers: each as the desk has it, on readings that are counts of a small step."""
