"""The answer, its working, its proof, whether all figures fit."""
