"""Planning the cuts: a first cutlist, careful edits, and the check against the pixels."""
