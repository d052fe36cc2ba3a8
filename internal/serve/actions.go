package serve

import (
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/mend"
)

// actionKinds are the kinds of actions that are proposed.
var actionKinds = []protocol.CodeActionKind{protocol.QuickFix, protocol.RefactorExtract, protocol.RefactorInline, protocol.SourceOrganizeImports}

// codeAction is like that of the package, with an edit as it is made here.
type codeAction struct {
	Title       string                  `json:"title"`
	Kind        protocol.CodeActionKind `json:"kind"`
	Diagnostics []protocol.Diagnostic   `json:"diagnostics,omitempty"`
	Edit        *workspaceEdit          `json:"edit,omitempty"`
	Data        *actionData             `json:"data,omitempty"`
}

// actionData says what an action does of which the edit is worked out when it is wanted.
type actionData struct {
	URI   protocol.DocumentURI `json:"uri"`
	Range protocol.Range       `json:"range"`
	Does  string               `json:"does"`
	Name  string               `json:"name,omitempty"`
}

// What such actions do.
const (
	makesVariable = "variable"
	makesFunction = "function"
	putsInPlace   = "inline"
)

// actions answers what can be done at a place: about what is wrong there, about how the code is built, about what the file imports.
func (c *call) actions() (any, error) {
	p, err := read[protocol.CodeActionParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.at(p.TextDocument.URI, p.Range.Start)
	if s == nil || err != nil {
		return nil, err
	}
	if err := c.ready(s.folder, true); err != nil {
		return nil, err
	}
	all := []codeAction{}
	if wanted(p.Context.Only, protocol.QuickFix) {
		if all, err = c.mends(s, p.Context.Diagnostics); err != nil {
			return nil, err
		}
	}
	for _, a := range c.builds(s, p) {
		if !wanted(p.Context.Only, a.Kind) {
			continue
		}
		if !slices.Contains(c.client.TextDocument.CodeAction.ResolveSupport.Properties, "edit") {
			if a.Edit, err = c.build(a.Data); err != nil {
				continue // what cannot be done is no action
			}
			a.Data = nil
		}
		all = append(all, a)
	}
	if len(p.Context.Only) > 0 && wanted(p.Context.Only, protocol.SourceOrganizeImports) { // editors ask for it by name, and for the others at each move
		if imports := c.imports(s); imports != nil {
			all = append(all, *imports)
		}
	}
	return all, c.ctx.Err()
}

// wanted says whether actions of a kind are wanted: all are, if none is named.
func wanted(only []protocol.CodeActionKind, kind protocol.CodeActionKind) bool {
	for _, k := range only {
		if k == kind || strings.HasPrefix(string(kind), string(k)+".") || k == "" {
			return true
		}
	}
	return len(only) == 0
}

// mends are what can be done about what is wrong at a place.
func (c *call) mends(s *spot, told []protocol.Diagnostic) ([]codeAction, error) {
	found, err := s.ws.Mending.At(c.ctx, s.path, s.offset)
	if err != nil {
		return nil, cannot(err)
	}
	all := []codeAction{}
	for _, m := range found {
		if edit, err := c.edit(s.folder, m.Proposal); err == nil { // what stops it is no action
			all = append(all, codeAction{Title: m.Title, Kind: protocol.QuickFix, Diagnostics: alreadyTold(m, told), Edit: edit})
		}
	}
	return all, nil
}

// alreadyTold are the diagnostics that something is done about.
func alreadyTold(m mend.Mend, told []protocol.Diagnostic) (all []protocol.Diagnostic) {
	for _, d := range told {
		if m.About != "" && d.Message == m.About {
			all = append(all, d)
		}
	}
	return all
}

// builds are the ways in which the code could be built otherwise: a name for what is selected, a function, something put in place of its
// name.
func (c *call) builds(s *spot, p *protocol.CodeActionParams) (all []codeAction) {
	of := restructure.Part{Path: s.path, At: s.lines.bytesOf(p.Range)}
	add := func(title string, kind protocol.CodeActionKind, does, name string) {
		all = append(all, codeAction{Title: title, Kind: kind, Data: &actionData{p.TextDocument.URI, p.Range, does, name}})
	}
	if of.At.Len() == 0 {
		d := s.ws.Answers.Describe(c.ctx, s.path, s.offset)
		if d.Candidates > 0 && !s.ws.Code.IsOutside(d.Best.Path) && (d.Best.Kind.IsCallable() || d.Best.Kind == facts.Variable || d.Best.Kind == facts.Constant) && s.ws.Changes.Extractable(c.ctx, of) != restructure.ErrNotHere {
			add("Put "+d.Name+" in place of its name", protocol.RefactorInline, putsInPlace, "")
		}
		return all
	}
	if found, err := s.ws.Changes.Expressions(c.ctx, of); err == nil && len(found) > 0 {
		add("A variable for this expression", protocol.RefactorExtract, makesVariable, found[0].Suggested)
	}
	if s.ws.Changes.Extractable(c.ctx, of) == nil {
		add("A function of this", protocol.RefactorExtract, makesFunction, "extracted")
	}
	return all
}

// build works out what such an action does.
func (c *call) build(d *actionData) (*workspaceEdit, error) {
	s, err := c.file(string(d.URI))
	if err != nil {
		return nil, err
	}
	if s == nil {
		return nil, cannot(errors.New("the file is in no folder any more"))
	}
	if err := c.ready(s.folder, true); err != nil {
		return nil, err
	}
	of := restructure.Part{Path: s.path, At: s.lines.bytesOf(d.Range)}
	var proposed *proposal.Proposal
	switch d.Does {
	case makesVariable:
		proposed, err = s.ws.Changes.Variable(c.ctx, of, d.Name, false)
	case makesFunction:
		proposed, err = s.ws.Changes.Function(c.ctx, of, d.Name)
	case putsInPlace:
		proposed, err = s.ws.Changes.Inline(c.ctx, of)
	default:
		return nil, refused(jsonrpc2.InvalidParams, "nothing here does %q", d.Does)
	}
	if err != nil {
		return nil, cannot(err)
	}
	return c.edit(s.folder, proposed)
}

// resolveAction works out the edit of an action.
func (c *call) resolveAction() (any, error) {
	// What is not known here goes back as it came.
	all, err := read[map[string]json.RawMessage](c)
	if err != nil {
		return nil, err
	}
	var data actionData
	if raw := (*all)["data"]; raw == nil {
		return all, nil
	} else if err := json.Unmarshal(raw, &data); err != nil || data.URI == "" {
		return nil, refused(jsonrpc2.InvalidParams, "the action is none of this server")
	}
	edit, err := c.build(&data)
	if err != nil {
		return nil, err
	}
	if (*all)["edit"], err = json.Marshal(edit); err != nil {
		return nil, err
	}
	return all, nil
}

// imports puts the imports of a file in order; nil if they are.
func (c *call) imports(s *spot) *codeAction {
	found, err := s.ws.Changes.Imports(c.ctx, s.path)
	if err != nil {
		return nil // that is not done in its language
	}
	chosen := map[string]facts.Imported{}
	for _, m := range found.Missing {
		if m.Sure {
			chosen[m.Name] = m.Choices[0]
		}
	}
	proposed, err := s.ws.Changes.InOrder(c.ctx, found, chosen)
	if err != nil {
		return nil // they are in order
	}
	edit, err := c.edit(s.folder, proposed)
	if err != nil || len(edit.Changes)+len(edit.DocumentChanges) == 0 {
		return nil
	}
	return &codeAction{Title: "Put the imports in order", Kind: protocol.SourceOrganizeImports, Edit: edit}
}
