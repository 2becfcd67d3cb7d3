"""What cannot work in a hook-up, and what mends it, proven on the hook-up itself."""
