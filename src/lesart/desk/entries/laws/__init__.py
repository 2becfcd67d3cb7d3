"""Laws that are added: by name, as a total or a change, or as what is reckoned; and the range that follows."""
