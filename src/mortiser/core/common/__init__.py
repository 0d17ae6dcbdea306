"""What every package of the core uses.

``time`` (microseconds and their text forms), ``frames`` (when the frames of a piece show), ``errors``
(what is said to people), ``limits`` (of what is asked for), ``exported`` (files of ours).
"""
