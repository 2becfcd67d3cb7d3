"""Raw: time-stamped values as the sensor gave them, each marked good or bad, and the timing of the samples."""
