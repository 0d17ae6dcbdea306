"""What is ordered, and what is known of it beforehand.

``order`` (a piece as it was when it was ordered), ``naming``, ``estimate`` (size and time), ``format_limits`` (what a
format cannot hold).
"""
