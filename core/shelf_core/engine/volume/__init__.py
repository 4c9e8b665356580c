"""What points take: sizes, what they share, and the sums of every day."""
