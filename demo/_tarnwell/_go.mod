module tarnwell

go 1.22
