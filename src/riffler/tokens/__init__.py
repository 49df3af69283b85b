"""Mockups -> the values that they use again and again, under names."""
