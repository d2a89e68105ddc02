"""What can be read off a plan: schools compared, what a finding can be mended with, lists before a spray, small parts by colour."""
