"""Words as captions.

``grouping`` (which words stand together), ``cue_timing`` (when they show), ``pace`` (both as one value), ``checks``
(what may be wrong), ``standing`` (what holds from now on), ``file_captions`` (at a pace of their own), ``tapping``.
"""
