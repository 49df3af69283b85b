"""What people look at: tables, trees, errors, progress."""
