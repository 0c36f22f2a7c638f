module estuary.example/api

go 1.21
