"""When anything happens: the days of a design, and the runs of its cadences."""
