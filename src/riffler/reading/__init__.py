"""A mockup is understood: what each drawing is and why, what repeats, what is clicked; as data.

Everything that has to know what a thing is asks here: drafts and surveys, later measuring, design
tokens, markup and fit. Sentences about it are written by who shows them.
"""
