"""Hand-written templates and cut pictures become linked pages and styles."""
