"""The finish seen before it is painted: as a patch at true size, and on a photo of the model."""
