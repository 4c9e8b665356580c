"""What a design must stand: restores, losses, duties (docs/model.md, Proof)."""
