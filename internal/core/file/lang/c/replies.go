package c

import (
	"encoding/json"
	"io/fs"
	"path"
	"slices"
	"strings"
)

// CMake writes what it knows of a build into files, where it is asked to by a file (cmake-file-api(7)): an index names
// a code model, that the targets, and these how their files are compiled. Only what stands there already is read.

// replyFolder is where the answers lie, from the folder of a build on.
const replyFolder = ".cmake/api/v1/reply"

// replies are the files with answers in the usual folders of builds, those of an older run left out.
func (b *build) replies() (all []string) {
	for _, at := range b.databases() {
		folder := path.Join(path.Dir(at), replyFolder)
		newest := ""
		entries, _ := fs.ReadDir(b.project.Disk(), folder) // where nothing can be listed there is nothing
		for _, e := range entries {
			name := e.Name()
			if strings.HasPrefix(name, "index-") && name > newest { // they are named by their times
				newest = name
			}
		}
		if newest != "" {
			all = append(all, path.Join(folder, newest))
		}
	}
	return all
}

// codeModel is the version of code models that is read; newer ones of it only say more.
const codeModel = "codemodel-v2"

// replyIndex, replyModel and replyTarget are what is read of the answers.
type replyIndex struct {
	Objects []struct{ Kind, JSONFile string }
}

type replyModel struct {
	Paths          struct{ Source, Build string }
	Configurations []struct {
		Targets []struct{ JSONFile string }
	}
}

type replyTarget struct {
	Sources       []struct{ Path string }
	CompileGroups []struct {
		SourceIndexes           []int
		CompileCommandFragments []struct{ Fragment string }
		Defines                 []struct{ Define string }
		Includes                []struct {
			Path     string
			IsSystem bool
		}
	}
}

// readReplies reads the answers in the first folder that says anything of files of the project, and says whether one does.
func (b *build) readReplies() bool {
	for _, at := range b.replies() {
		folder := path.Dir(at)
		var index replyIndex
		b.decode(at, &index)
		for _, o := range index.Objects {
			if o.Kind == "codemodel" && strings.HasPrefix(o.JSONFile, codeModel) {
				b.readModel(folder, o.JSONFile)
			}
		}
		if len(b.files) > 0 {
			return true
		}
	}
	return false
}

func (b *build) readModel(folder, name string) {
	var model replyModel
	b.decode(path.Join(folder, name), &model)
	t := b.taker()
	for _, c := range model.Configurations[:min(len(model.Configurations), 1)] { // the others differ in what is not looked at, mostly
		for _, of := range c.Targets {
			var target replyTarget
			b.decode(path.Join(folder, of.JSONFile), &target)
			target.take(t, slashed(model.Paths.Source), slashed(model.Paths.Build))
		}
	}
}

// take hands on how each file of a target is compiled.
func (r *replyTarget) take(t *taker, source, built string) {
	for _, g := range r.CompileGroups {
		var arguments []string
		for _, f := range g.CompileCommandFragments {
			arguments = append(arguments, split(f.Fragment)...)
		}
		for _, d := range g.Defines {
			arguments = append(arguments, "-D", d.Define)
		}
		for _, i := range g.Includes {
			option := "-I"
			if i.IsSystem {
				option = "-isystem"
			}
			arguments = append(arguments, option, i.Path)
		}
		for _, n := range g.SourceIndexes {
			if n < 0 || n >= len(r.Sources) {
				continue
			}
			file := slashed(r.Sources[n].Path)
			if !path.IsAbs(file) {
				file = path.Join(source, file)
			}
			t.take(entry{Directory: built, File: file, Arguments: slices.Insert(slices.Clone(arguments), 0, "cc")})
		}
	}
}

// decode reads a file of answers; what cannot be read says nothing.
func (b *build) decode(at string, into any) {
	_ = json.Unmarshal(b.project.Text(at), into)
}
