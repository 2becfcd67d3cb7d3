"""Units written as words after a number."""

WHAT_IT_IS = {"degrees": "°", "degree": "°", "deg": "°", "percent": "%", "litres": "L", "liters": "L"}
