"""The design document: what it may say, in canonical form, with errors that carry a path."""
