"""Raw: time-stamped values as the sensor gave them, each marked good or bad, and what their times look like."""
