"""Scenes painted with Skia. The only importer of skia."""
