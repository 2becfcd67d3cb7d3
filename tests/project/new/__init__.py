"""Tests of projects made from a file."""
