"""A mockup -> its numbers: sizes, places, distances, and the CSS of a thing."""
