"""Filters and alarms in integers: each like the desk's, on readings counted in small steps."""
