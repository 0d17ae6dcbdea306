"""Scenes painted with Skia and blended into video. The only importer of skia."""
