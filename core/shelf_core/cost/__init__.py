"""What a design costs, month by month."""
