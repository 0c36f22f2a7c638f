module estuary.example/mail

go 1.22.1
