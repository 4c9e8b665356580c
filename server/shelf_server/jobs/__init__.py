"""Long work about designs: kept in the database, done by workers on any machine, found again by whoever may see the design."""
