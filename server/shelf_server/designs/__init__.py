"""Designs: their rows, who may do what with them, and what is done."""
