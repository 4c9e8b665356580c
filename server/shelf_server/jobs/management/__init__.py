"""Commands of Django's command line."""
