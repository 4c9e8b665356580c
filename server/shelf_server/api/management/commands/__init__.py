"""Commands of Django for the API."""
