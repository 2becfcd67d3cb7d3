"""Tests of facts and their homes."""
