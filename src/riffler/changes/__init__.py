"""Two versions of a mockup -> what changed, what that touches, and the change carried through."""
