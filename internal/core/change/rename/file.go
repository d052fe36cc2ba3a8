package rename

// files moves the files whose names have to be that of what is renamed.
func (w *work) files() {}
