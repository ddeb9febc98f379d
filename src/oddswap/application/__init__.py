"""One use case a module: what the web service and the command line share."""
