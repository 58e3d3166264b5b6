"""Starting and stopping what Lumbek runs on."""
