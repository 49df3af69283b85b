"""Layers become pixels: any box of a mockup, at any scale, with any layers shown."""
