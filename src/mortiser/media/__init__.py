"""Recordings: probed, decoded, encoded. The only importer of PyAV."""
