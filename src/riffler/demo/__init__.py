"""The shipped example, Fernhollow Apiary: a made-up honey farm."""
