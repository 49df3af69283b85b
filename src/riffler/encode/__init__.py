"""Pixels become bytes: one module a format."""
