"""Units as people and files write them: in names, behind numbers, in words."""
