"""What + adds and delete takes away in 8 Pace."""
