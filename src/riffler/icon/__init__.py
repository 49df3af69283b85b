"""Favicons: small pictures in the files that browsers ask for."""
