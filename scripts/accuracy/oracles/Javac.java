import com.sun.source.tree.*;
import com.sun.source.util.*;
import com.sun.tools.javac.tree.JCTree;
import java.io.*;
import java.nio.charset.StandardCharsets;
import java.nio.file.*;
import java.util.*;
import java.util.stream.*;
import javax.lang.model.element.*;
import javax.tools.*;

/**
 * Prints what the Java compiler says each name means, for the files below a
 * folder:
 *
 *   java --add-exports jdk.compiler/com.sun.tools.javac.tree=ALL-UNNAMED Javac.java DIR [javac options]
 */
public class Javac {
    static Path root;
    static Trees trees;
    static PrintStream out = new PrintStream(new BufferedOutputStream(System.out, 1 << 16), false, StandardCharsets.UTF_8);
    static final Map<CompilationUnitTree, String> texts = new HashMap<>();

    public static void main(String[] args) throws Exception {
        root = Path.of(args[0]).toAbsolutePath().normalize();
        List<File> files;
        try (Stream<Path> walk = Files.walk(root)) {
            files = walk.filter(p -> p.toString().endsWith(".java") && !p.endsWith("module-info.java") && !p.endsWith("package-info.java")).map(Path::toFile).sorted().collect(Collectors.toList());
        }
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StandardJavaFileManager manager = compiler.getStandardFileManager(d -> {}, null, StandardCharsets.UTF_8);
        List<String> options = new ArrayList<>(List.of("-proc:none", "-Xmaxerrs", "1", "-implicit:none"));
        options.addAll(Arrays.asList(args).subList(1, args.length));
        JavacTask task = (JavacTask) compiler.getTask(null, manager, d -> {}, options, null, manager.getJavaFileObjectsFromFiles(files));
        List<CompilationUnitTree> units = new ArrayList<>();
        task.parse().forEach(units::add);
        try {
            task.analyze();
        } catch (RuntimeException | Error e) {
            System.err.println("analysis stopped: " + e);
        }
        trees = Trees.instance(task);
        for (CompilationUnitTree unit : units) {
            texts.put(unit, unit.getSourceFile().getCharContent(true).toString());
        }
        for (CompilationUnitTree unit : units) {
            new Names(unit).scan(unit, null);
        }
        out.flush();
    }

    static class Names extends TreePathScanner<Void, Void> {
        final CompilationUnitTree unit;
        Names(CompilationUnitTree unit) { this.unit = unit; }

        @Override public Void visitImport(ImportTree node, Void v) { return null; }
        @Override public Void visitPackage(PackageTree node, Void v) { return scan(node.getAnnotations(), v); }

        @Override public Void visitIdentifier(IdentifierTree node, Void v) {
            String name = node.getName().toString();
            if (!name.equals("this") && !name.equals("super") && !name.isEmpty()) {
                report(name, ((JCTree) node).pos);
            }
            return super.visitIdentifier(node, v);
        }

        @Override public Void visitMemberSelect(MemberSelectTree node, Void v) {
            String name = node.getIdentifier().toString();
            if (!name.equals("class") && !name.equals("this") && !name.equals("super")) {
                int at = texts.get(unit).indexOf(name, ((JCTree) node).pos);
                report(name, at);
            }
            return super.visitMemberSelect(node, v);
        }

        @Override public Void visitMemberReference(MemberReferenceTree node, Void v) {
            String name = node.getName().toString();
            if (!name.equals("<init>")) {
                int at = texts.get(unit).indexOf(name, (int) trees.getSourcePositions().getEndPosition(unit, node.getQualifierExpression()));
                report(name, at);
            }
            return super.visitMemberReference(node, v);
        }

        void report(String name, int at) {
            String text = texts.get(unit);
            if (at < 0 || !text.startsWith(name, at)) {
                return;
            }
            Element e = trees.getElement(getCurrentPath());
            if (e == null || e.getKind() == ElementKind.PACKAGE || e.asType().getKind() == javax.lang.model.type.TypeKind.ERROR) {
                return;
            }
            String target = place(e);
            if (target == null) {
                return;
            }
            out.println("{\"query\":\"" + position(unit, at) + "\",\"target\":\"" + target + "\"}");
        }
    }

    /** Where an element is declared; "" outside, null if that is not known. */
    static String place(Element e) {
        TreePath path = trees.getPath(e);
        if (path == null) {
            // Locals have no path; they and what the compiler adds are left out.
            return switch (e.getKind()) {
                case LOCAL_VARIABLE, PARAMETER, EXCEPTION_PARAMETER, RESOURCE_VARIABLE, BINDING_VARIABLE, TYPE_PARAMETER -> null;
                default -> "";
            };
        }
        CompilationUnitTree unit = path.getCompilationUnit();
        String text = texts.get(unit);
        if (text == null) {
            return "";
        }
        Tree tree = path.getLeaf();
        String name = e.getSimpleName().toString();
        if (e.getKind() == ElementKind.CONSTRUCTOR) {
            name = e.getEnclosingElement().getSimpleName().toString();
        }
        int from = tree instanceof ClassTree ? after(tree, text) : ((JCTree) tree).pos;
        int at = name.isEmpty() ? from : word(text, name, Math.max(from, 0));
        if (at < 0 || at > from + 2000) {
            return null;
        }
        return position(unit, at);
    }

    /** Where a word stands in a text. */
    static int word(String text, String name, int from) {
        for (int at = text.indexOf(name, from); at >= 0; at = text.indexOf(name, at + 1)) {
            int end = at + name.length();
            if ((at == 0 || !Character.isJavaIdentifierPart(text.charAt(at - 1))) && (end == text.length() || !Character.isJavaIdentifierPart(text.charAt(end)))) {
                return at;
            }
        }
        return -1;
    }

    /** The end of the modifiers of a class. */
    static int after(Tree tree, String text) {
        JCTree.JCClassDecl c = (JCTree.JCClassDecl) tree;
        int end = c.pos;
        for (String word : new String[] {"class", "interface", "enum", "record"}) {
            if (text.startsWith(word, end)) {
                return end + word.length();
            }
        }
        java.util.regex.Matcher m = java.util.regex.Pattern.compile("\\b(class|interface|enum|record)\\s+" + c.name + "\\b").matcher(text);
        return m.find(Math.max(0, end)) ? m.start() : end;
    }

    static String position(CompilationUnitTree unit, int at) {
        String text = texts.get(unit);
        long line = unit.getLineMap().getLineNumber(at);
        int start = text.lastIndexOf('\n', at - 1) + 1;
        int column = text.substring(start, at).getBytes(StandardCharsets.UTF_8).length + 1;
        return root.relativize(Path.of(unit.getSourceFile().toUri())) + ":" + line + ":" + column;
    }
}
