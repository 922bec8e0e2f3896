"""What is asked for: amounts, counts, rates, all that fit; the reasons where there is none."""
