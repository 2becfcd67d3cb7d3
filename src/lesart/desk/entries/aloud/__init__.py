"""Phrases as people say them, translated into what the steps accept."""
