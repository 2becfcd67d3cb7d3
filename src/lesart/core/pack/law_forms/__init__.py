"""Laws and corrections in integers: a straight line, tables, integer coefficients."""
