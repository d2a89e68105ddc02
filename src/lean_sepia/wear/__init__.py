"""Weathering as measured quantities: segment, measure, grade, translate to scale."""
