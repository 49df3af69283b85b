"""A folder of pages is proofread: what was forgotten, left over, or leads nowhere."""
