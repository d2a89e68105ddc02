"""What file dialogs offer."""

PROJECT_FILTER = "Lean Sepia (*.sepia)"
PICTURE_FILTER = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.bmp *.gif *.heic *.heif *.dng *.nef *.cr2 *.cr3 *.arw *.raf *.orf *.rw2);;All files (*)"
