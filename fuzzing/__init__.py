"""What attacks the program: hostile texts, pictures, projects, hands, kills and disks, each seeded and counted."""
