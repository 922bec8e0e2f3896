"""The document laid out on its time line: periods, rates, flows, fees."""
