"""Pages that are roughed out, looked at in a browser and mended before anything is written."""
