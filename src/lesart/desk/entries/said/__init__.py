"""What any line may say, whatever it is about: words that change a meaning, and a supply."""
