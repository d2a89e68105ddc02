"""Light and the eye: spectra, observer, lights, Lab, colour difference, adaptation, words."""
