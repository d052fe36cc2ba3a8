module rooktrail

go 1.26.0

require (
	github.com/go-git/go-git/v5 v5.19.3
	github.com/rivo/uniseg v0.4.7
	github.com/smacker/go-tree-sitter v0.0.0-20240827094217-dd81d9e9be82
	github.com/stretchr/testify v1.12.1
	golang.org/x/text v0.43.0
)

require (
	github.com/go-git/gcfg v1.5.1-0.20230307220236-3a3c6141e376 // indirect
	github.com/go-git/go-billy/v5 v5.9.2 // indirect
	github.com/jbenet/go-context v0.0.0-20150711004518-d14ea06fba99 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/net v0.57.0 // indirect
	gopkg.in/warnings.v0 v0.1.2 // indirect
)
