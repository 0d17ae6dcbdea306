"""Make the demo clips: ``python -m scripts.demo_media`` from the root of the repository."""
