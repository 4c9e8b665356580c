"""What is asked of an engine run: series, full-on dates, the list of points."""
