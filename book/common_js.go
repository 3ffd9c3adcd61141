package book

// common is not asked on a device: passwords are set at home.
func common(string) bool { return false }
