"""A page in a browser and its mockup -> in numbers how far one is from the other, and why."""
