"""Entries of True: references at the cursor or typed as pairs, and calibrations put away."""
