"""Fees, the yearly cost by the published rules, the carrying amount."""
