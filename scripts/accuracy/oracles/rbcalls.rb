# Records which methods are called while a program runs, and where from:
#
#   CALLS=out.jsonl ruby rbcalls.rb ROOT FOLDER SCRIPT [ARGUMENTS...]
#
# What is called, and calls, in FOLDER is written with paths from ROOT. A call is told by its line; it is written down if the name
# stands there once as a call, so that it can be told which one it is.
require 'json'
require 'set'

root = File.realpath(ARGV.shift)
folder = File.realpath(File.join(root, ARGV.shift))
script = ARGV.shift
$0 = script
seen = Set.new
lines = Hash.new { |h, path| h[path] = File.readlines(path, encoding: 'UTF-8') rescue [] }

# column is where a name stands in a line, counted from 1 in bytes, if it stands there once.
column = lambda do |path, line, name|
  text = lines[path][line - 1].to_s.scrub('?')
  found = []
  text.scan(/(?<![\w@:$])#{Regexp.escape(name)}(?![\w?!:])/) { found << Regexp.last_match.pre_match.bytesize }
  code = text.index('#') && text !~ /["'].*#/ ? text[0...text.index('#')].bytesize : text.bytesize
  found.size == 1 && found[0] < code ? found[0] + 1 : nil
end

trace = TracePoint.new(:call) do |tp|
  next unless tp.path.start_with?(folder)
  from = caller_locations(2, 1)&.first
  next unless from && from.absolute_path&.start_with?(folder)
  key = [from.absolute_path, from.lineno, tp.path, tp.lineno]
  seen << key + [tp.callee_id.to_s]
end

at_exit do
  trace.disable
  by_use = Hash.new { |h, k| h[k] = Set.new }
  seen.each do |path, line, to, at, name|
    next unless name =~ /\A\w+[?!=]?\z/
    name = 'new' if name == 'initialize'
    name = name.chomp('=') if name =~ /\A\w+=\z/
    col = column.call(path, line, name)
    next unless col
    definition = lines[to][at - 1].to_s
    m = definition.match(/def\s+(?:self\.|\w+\.)?(#{Regexp.escape(name == 'new' ? 'initialize' : name)})/)
    next unless m
    by_use[[path, line, col]] << [to, at, definition[0...m.begin(1)].bytesize + 1]
  end
  File.open(ENV.fetch('CALLS'), 'w') do |out|
    by_use.each do |(path, line, col), targets|
      targets.each do |to, at, c|
        out.puts JSON.generate(query: "#{path.delete_prefix(root + '/')}:#{line}:#{col}", target: "#{to.delete_prefix(root + '/')}:#{at}:#{c}")
      end
    end
  end
end

trace.enable
load script
