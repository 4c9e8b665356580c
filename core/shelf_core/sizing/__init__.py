"""Sizing help: what a workload is like, from a listing of its files or from past points."""
