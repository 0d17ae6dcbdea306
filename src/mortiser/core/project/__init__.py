"""A piece as one value, and what was chosen for it.

``piece``; ``output`` (what it is delivered as), ``post`` (the text beside it), ``jig`` (how it is made, under a name).
"""
