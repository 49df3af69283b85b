"""The checks of the survey: one module each, from pages to findings."""
