"""Sets up and runs Rested Shelf on a fresh machine. Standard library only: it runs before anything is installed."""
