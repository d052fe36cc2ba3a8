package demo

var commits = []commit{}

var revisions = []revision{}
