"""Words that are only pixels -> what they say, and how they were set."""
