"""What people ask a step for that it does not have, by step: what does the work instead, or where it is said."""
