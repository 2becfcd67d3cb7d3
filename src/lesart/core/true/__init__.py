"""True: what a reading says beside a known value, and the correction that follows from it."""
