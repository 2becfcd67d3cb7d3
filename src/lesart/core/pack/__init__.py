"""Pack: a channel carried into firmware, in whole numbers that are proved not to overflow and shown to agree."""
