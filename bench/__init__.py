"""Measurements: never a test that fails with the weather of the machine."""
