"""Pack: what goes to the firmware. Empty until chains are carried over into integer arithmetic."""
