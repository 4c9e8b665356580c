"""Growth that is not known: many draws of what workloads may do, and what they make of each target."""
