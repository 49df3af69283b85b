"""Slices become files: everything that is made of a project's mockups is planned and run here."""
