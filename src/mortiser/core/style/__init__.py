"""How captions look and move.

``finish`` (complete, named looks), ``motion`` (what moves, as keyframed tracks), ``layout`` (text laid out once),
``legibility`` (whether it can be read), ``suggesting`` (words worth an accent).
"""
