module lock.example/lockkeeper

go 1.22.3

toolchain go1.23.1

require (
	github.com/mattn/go-sqlite3 v1.14.22
	google.golang.org/protobuf v1.34.1 // indirect
)
