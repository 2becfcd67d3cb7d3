"""Adding laws: by name, as a total or a change, or by arithmetic; and the resulting range."""
