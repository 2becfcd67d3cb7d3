"""The linden yard: a made-up apiary. All of its data come from here, from a fixed seed."""
