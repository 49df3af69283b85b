"""The built pages in a browser while one works on them, with the mockups laid over."""
