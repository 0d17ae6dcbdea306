"""The web edge: routes, schemas, errors and events."""
