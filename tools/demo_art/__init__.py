"""The drawings of the example."""
