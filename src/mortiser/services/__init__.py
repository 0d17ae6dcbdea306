"""Use cases that need no page: a folder watched, a recording captioned, heard, delivered, the server started.

Each is a module of functions with values in and values out; the command line translates arguments for them.
"""
