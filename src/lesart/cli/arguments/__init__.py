"""The arguments of ``lesart``: nothing heavy is imported to parse them."""
