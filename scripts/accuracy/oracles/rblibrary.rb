# Makes parts of Ruby's own library do what they are for, so that rbcalls.rb sees who calls whom in it.
require 'rbconfig'
library = RbConfig::CONFIG['rubylibdir']
require 'rdoc'
require 'tmpdir'
require 'csv'
require 'rexml/document' rescue nil
require 'erb'
require 'optparse'
require 'uri'
require 'set'
r = RDoc::RDoc.new
Dir.mktmpdir { |d| r.document(['-q', '-o', d + '/o', library + '/optparse.rb', library + '/set.rb', library + '/erb.rb', library + '/uri/generic.rb']) }
Dir.mktmpdir { |d| RDoc::RDoc.new.document(['-q', '-r', '-o', d + '/o', library + '/optparse.rb']) }
puts RDoc::Markup::ToHtml.new(RDoc::Options.new).convert("= Title\n\n* one\n* two\n\n  code\n\nA *bold* +x+ http://a.b/c text.\n\n1. a\n2. b\n")
puts RDoc::Markdown.parse("# T\n\n* a\n* b\n\n> q\n\n```ruby\nx\n```\n[l](http://x)\n").accept(RDoc::Markup::ToMarkdown.new)
CSV.parse("a,b\n1,\"x\"\"y\"\n", headers: true) { |x| x.to_h; x.to_s }
puts CSV.generate { |c| c << [1, 2, "a,b"] }
ERB.new("<% 3.times do |i| %><%= i %><% end %>").result
o = OptionParser.new { |op| op.on('-v', '--[no-]verbose', 'x'); op.on('-nN', Integer); op.on('--list a,b', Array) }
o.parse(%w[-v -n3 --list x,y rest]); o.help
URI.parse('http://user@host:80/p/a?q=1#f').tap { |u| u.path = '/x'; u.to_s; u + '../y' }
Set[1,2,3].subset?(Set[1,2,3,4])
