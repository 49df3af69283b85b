"""Made-up page mockups whose truth is known, to hold drafts against."""
