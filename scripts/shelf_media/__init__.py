"""The films, pictures, sounds and music of the stand-in for a clip library, drawn and synthesised.

``python -m scripts.shelf_media`` writes them, with their catalogue, to src/mortiser/standins/media.
"""
