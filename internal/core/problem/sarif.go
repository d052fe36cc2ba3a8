package problem

import (
	"fmt"
	"io"
	"net/url"

	"github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif"
)

// Tool is what the program is called in reports.
const Tool = "Rook Trail"

// WriteSARIF writes problems as a report of the Static Analysis Results Interchange Format 2.1.0. Paths in it are relative to the
// root of the project, columns count code points, and level is error for what is grave, else warning.
func WriteSARIF(out io.Writer, all []Problem) error {
	run := sarif.NewRun()
	run.Tool = sarif.NewTool().WithDriver(sarif.NewToolComponent().WithName(Tool))
	run.WithColumnKind("unicodeCodePoints")
	for _, k := range Kinds {
		run.AddRule(string(k)).WithShortDescription(sarif.NewMultiformatMessageString().WithText(k.Words()))
	}
	for i := range all {
		p := &all[i]
		level := "warning"
		if p.Kind.Grave() {
			level = "error"
		}
		region := sarif.NewRegion().WithStartLine(p.Line).WithStartColumn(p.runes).WithEndLine(p.EndLine).WithEndColumn(p.endRunes)
		at := sarif.NewPhysicalLocation().WithArtifactLocation(sarif.NewSimpleArtifactLocation((&url.URL{Path: p.Path}).EscapedPath())).WithRegion(region)
		properties := sarif.NewPropertyBag()
		properties.Add("by", p.By)
		properties.Add("certainty", p.Certainty.String())
		run.CreateResultForRule(string(p.Kind)).WithMessage(sarif.NewTextMessage(p.Text)).WithLevel(level).
			WithLocations([]*sarif.Location{sarif.NewLocationWithPhysicalLocation(at)}).WithProperties(properties)
	}
	report := sarif.NewReport()
	report.AddRun(run)
	if err := report.PrettyWrite(out); err != nil {
		return fmt.Errorf("writing the report: %w", err)
	}
	return nil
}
