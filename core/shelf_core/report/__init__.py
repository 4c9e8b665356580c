"""A forecast to take away: tables, a workbook, series for other programs, a report to print."""
