"""Made files become the output folder and its ledger, and nothing written by hand is lost."""
