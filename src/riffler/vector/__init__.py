"""Vector files: layers taken out of a mockup, tidied, made for a page, put together in one file."""
