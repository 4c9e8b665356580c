"""Time: zones, recurrences, periods and durations, on arrays."""
