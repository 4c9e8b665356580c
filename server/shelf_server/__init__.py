"""The Django server of Rested Shelf."""
