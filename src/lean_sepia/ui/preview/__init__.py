"""The finish as it will be: a patch at true size, enlarged, and on the photo of the model."""
