"""The cutlist: what is cut from one mockup, as people write it and as it is cut."""
