"""What stands before the application: it takes whole requests, and hands each to a process of its own."""
