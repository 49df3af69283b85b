"""Mockups are roughed out: a tree of boxes becomes the first templates, styles and data of a site."""
