"""A piece as one value, and what was chosen for it.

``piece`` (clips, settings, facts of the recordings), ``settings``, ``picture_moment`` (which point of a picture lies
where, and when); ``output`` (what it is delivered as), ``post`` (the text beside it), ``jig`` (how it is made, under a
name); ``source``, ``file_groups`` (which dropped files belong together); ``job`` (the kinds of jobs).
"""
