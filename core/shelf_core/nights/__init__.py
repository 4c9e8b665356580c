"""How long runs take: transfers, what they share, what held them, and which are late (docs/model.md, Nights)."""
