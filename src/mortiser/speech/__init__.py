"""Speech heard and timed. The only importer of speech models."""
