"""What was said: words, how sure they are, how they are written.

``words`` (Word, Shown, Cue), ``sentences`` and ``speakers``; ``doubt``, ``voting`` and ``comparing`` (how sure);
``glossary``, ``sounding``, ``capitals`` and ``fillers`` (how it is written); ``carry``, ``realign``, ``script``,
``search`` and ``unspaced`` (other text on the same sound).
"""
