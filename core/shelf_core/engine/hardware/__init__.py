"""What it takes of drives, cartridges and devices."""
