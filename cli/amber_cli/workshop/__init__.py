"""./amber workshop: a real workshop on one machine, from its first day on."""
