"""Pure findings about a mockup: what its boxes and pixels have in common."""
