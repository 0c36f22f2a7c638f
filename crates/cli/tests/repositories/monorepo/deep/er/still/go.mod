module never.example/never

go 1.99
