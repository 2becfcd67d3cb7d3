"""Laws that go on from sample to sample: what adds up over time, and how fast a value changes."""
