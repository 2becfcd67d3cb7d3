"""The command line: one module per command. Everything the screens do can be done here without one."""
