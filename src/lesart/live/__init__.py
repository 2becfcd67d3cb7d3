"""Sources that move. For now the replay of a capture; lines and buses join it here."""
