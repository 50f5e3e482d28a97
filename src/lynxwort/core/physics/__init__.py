"""The laws, one subject a folder: pure functions over small parts of the model, which know of no station, no reading
and no document.
"""
