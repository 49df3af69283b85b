"""Many pictures in one file, with the style sheet that shows each of them."""
