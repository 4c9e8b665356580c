"""Edits of a design by name: what a person means by one act, as all the changes of entries that it takes."""
