"""Wire: parts, pins and what joins them; whether it can work, what is proposed, sums of the bench, bring-up."""
