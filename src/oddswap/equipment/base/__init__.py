"""What all kinds of kit share: laws, settings, items, places around a client, fields of documents."""
