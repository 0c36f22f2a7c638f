# What only the program can look at.
only() { say unknown "setup-ready looks at this: $1"; }
