"""Laws and corrections in whole numbers: a straight line, tables, whole coefficients."""
