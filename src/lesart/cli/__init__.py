"""The command line: one module a command. Everything the screens do can be done here without one."""
