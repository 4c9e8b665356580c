"""Between the rows of a design and its document."""
