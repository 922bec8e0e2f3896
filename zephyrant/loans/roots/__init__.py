"""Roots: of what rises or falls, of curves with proof that there is no other, of many loans."""
