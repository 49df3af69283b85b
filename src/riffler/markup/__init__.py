"""Mockups are roughed out: a tree of boxes becomes a site's first templates, styles and data."""
