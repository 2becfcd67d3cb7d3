"""What people say aloud, put into the words that the steps take."""
