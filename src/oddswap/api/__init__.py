"""The web service: thin routes over the core and the store."""
