"""The names of the edits, each the tag of its command."""

EDITS = ("take-out", "rename-rung", "add-route", "add-copy", "move-copy", "take-out-copy", "add-step-down", "seed")
