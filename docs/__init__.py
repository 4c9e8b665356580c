"""Pictures of the main views."""
