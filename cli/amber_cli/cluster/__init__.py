"""The same application past one machine, rehearsed on one: databases that follow one another, two web servers, one door before them."""
