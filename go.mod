module rooktrail

go 1.26.0

require (
	github.com/rivo/uniseg v0.4.7
	github.com/stretchr/testify v1.12.1
	golang.org/x/text v0.43.0
)

require go.yaml.in/yaml/v3 v3.0.5 // indirect
