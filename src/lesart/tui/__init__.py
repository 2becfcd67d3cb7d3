"""The screen. Widgets draw what the desk made; they compute nothing."""
