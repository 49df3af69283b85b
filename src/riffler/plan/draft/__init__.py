"""A mockup -> a first cutlist, with the reasons as comments, and the questions it leaves open."""
