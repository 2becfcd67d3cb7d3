"""Wire: parts, pins and connections; whether they can work, proposals, bench sums, bring-up."""
