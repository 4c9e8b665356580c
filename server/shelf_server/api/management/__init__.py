"""Commands of Django for this part."""
