"""Pack: a channel as firmware, in integers that are proved not to overflow and shown to agree with the desk."""
