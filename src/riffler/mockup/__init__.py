"""A file becomes a Mockup: a tree of layers with addresses, words and fonts."""
