"""A load and fault test of the whole service on this machine: what was acknowledged is there, nothing is overwritten unseen."""
