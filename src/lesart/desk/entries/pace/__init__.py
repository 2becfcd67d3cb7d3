"""What + adds and delete removes in 8 Pace."""
