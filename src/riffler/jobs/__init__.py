"""Cutting: what is made, what it is recorded as, and how it gets onto the disk."""
