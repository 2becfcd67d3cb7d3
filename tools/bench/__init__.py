"""How fast Lesart is, beside what cannot be beaten and what a person would write instead, all in one run."""
