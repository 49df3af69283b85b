"""Riffler: from layered mockups to image files, measurements and hand-coded pages."""

__version__ = "0.1.0"
