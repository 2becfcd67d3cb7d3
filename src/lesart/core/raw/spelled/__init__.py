"""Units as people and files write them: in names, after numbers, in words."""
