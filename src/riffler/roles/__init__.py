"""One pure function a role: pixels become a named picture and what CSS must know of it."""
