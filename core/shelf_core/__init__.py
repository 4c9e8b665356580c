"""The computation of Rested Shelf: no framework, no database, no network, no clock of its own."""
