"""Requests for what a step does not have, by step: what does the work instead, or where it is set."""
