"""The demo: the Lantern Lane Mending Room, made up, drawn and spoken by scripts/demo_media."""
