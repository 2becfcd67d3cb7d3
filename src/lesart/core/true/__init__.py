"""True: readings compared with known values, and the correction that follows from them."""
