"""Laws with memory: totals over time, and how fast a value changes."""
