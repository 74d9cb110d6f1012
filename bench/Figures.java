import com.sun.source.tree.ClassTree;
import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.MethodTree;
import com.sun.source.tree.Tree;
import com.sun.source.tree.VariableTree;
import com.sun.source.util.DocTrees;
import com.sun.source.util.JavacTask;
import com.sun.source.util.TreePath;
import com.sun.source.util.TreePathScanner;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javax.lang.model.element.Modifier;
import javax.tools.ToolProvider;

/**
 * The figures of the house: how long files and methods are, how much is explained and how much is open to others.
 *
 * <p>{@code java bench/Figures.java [--list] [FOLDER …]}; without a folder, the main code of every module. Files are
 * read by the JDK's own parser, nothing is compiled. A method's lines go from its first annotation to its closing
 * brace, without the comment above it. With {@code --list} whatever is over a limit is named. Ends with 1 if something
 * is.
 */
public class Figures {
    private static final int FILE = 300, METHOD_P90 = 15, METHOD = 50, COMPONENTS = 12, OPEN_IN_CORE = 60;
    /** Tables of numbers, one line an instruction: cutting them would only hide them. */
    private static final List<String> TABLES = List.of("Cpu86");

    private record Sized(String name, int size) {}

    private final List<Sized> files = new ArrayList<>();
    private final List<Sized> methods = new ArrayList<>();
    private final List<Sized> records = new ArrayList<>();
    private int lines;
    private int comments;
    private int types;
    private int documented;
    private int open;

    public static void main(String[] args) throws IOException {
        List<String> asked = new ArrayList<>(List.of(args));
        boolean list = asked.remove("--list");
        if (asked.isEmpty()) {
            try (Stream<Path> modules = Files.list(Path.of("."))) {
                modules.map(module -> module.resolve("src/main/java"))
                        .filter(Files::isDirectory)
                        .map(Path::toString)
                        .sorted()
                        .forEach(asked::add);
            }
        }
        System.out.println("| folder | files | file: median/p90/max | method: median/p90/max | comment lines"
                + " | types documented | public types | widest record |");
        System.out.println("|---|---|---|---|---|---|---|---|");
        Figures all = new Figures();
        List<String> over = new ArrayList<>();
        for (String folder : asked) {
            Figures one = new Figures();
            one.read(Path.of(folder));
            one.print(folder);
            one.over(folder, over);
            all.add(one);
        }
        all.print("all");
        if (p(all.methods, 90) > METHOD_P90) {
            over.add("nine of ten methods have at most " + p(all.methods, 90) + " lines, not " + METHOD_P90);
        }
        if (list) {
            over.forEach(System.out::println);
        }
        System.out.println(over.isEmpty() ? "Nothing is over its limit." : over.size() + " over their limits.");
        System.exit(over.isEmpty() ? 0 : 1);
    }

    private void read(Path folder) throws IOException {
        List<Path> sources;
        try (Stream<Path> walk = Files.walk(folder)) {
            sources = walk.filter(file -> file.toString().endsWith(".java"))
                    .filter(file -> !file.endsWith("package-info.java"))
                    .sorted()
                    .toList();
        }
        var compiler = ToolProvider.getSystemJavaCompiler();
        try (var manager = compiler.getStandardFileManager(null, null, null)) {
            var task = (JavacTask) compiler.getTask(
                    null, manager, null, List.of("-proc:none"), null, manager.getJavaFileObjectsFromPaths(sources));
            DocTrees trees = DocTrees.instance(task);
            for (CompilationUnitTree unit : task.parse()) {
                Path file = Path.of(unit.getSourceFile().toUri());
                List<String> text = Files.readAllLines(file);
                files.add(new Sized(file.getFileName().toString(), text.size()));
                lines += text.size();
                comments += (int) text.stream()
                        .map(String::strip)
                        .filter(line -> line.startsWith("//") || line.startsWith("*") || line.startsWith("/*"))
                        .count();
                new Reader(unit, trees).scan(unit, null);
            }
        }
    }

    private final class Reader extends TreePathScanner<Void, Void> {
        private final CompilationUnitTree unit;
        private final DocTrees trees;
        private final String file;

        Reader(CompilationUnitTree unit, DocTrees trees) {
            this.unit = unit;
            this.trees = trees;
            this.file = Path.of(unit.getSourceFile().toUri()).getFileName().toString().replace(".java", "");
        }

        @Override
        public Void visitClass(ClassTree type, Void none) {
            TreePath above = getCurrentPath().getParentPath();
            boolean top = above.getLeaf() == unit;
            if (top) {
                types++;
                documented += trees.getDocComment(getCurrentPath()) == null ? 0 : 1;
                open += type.getModifiers().getFlags().contains(Modifier.PUBLIC) ? 1 : 0;
            }
            if (type.getKind() == Tree.Kind.RECORD) {
                int width = (int) type.getMembers().stream()
                        .filter(member -> member instanceof VariableTree field
                                && !field.getModifiers().getFlags().contains(Modifier.STATIC))
                        .count();
                records.add(new Sized(top ? file : file + "." + type.getSimpleName(), width));
            }
            return super.visitClass(type, none);
        }

        @Override
        public Void visitMethod(MethodTree method, Void none) {
            long start = trees.getSourcePositions().getStartPosition(unit, method);
            long end = trees.getSourcePositions().getEndPosition(unit, method);
            if (method.getBody() != null && end > start && start >= 0) {
                int size = (int) (unit.getLineMap().getLineNumber(end) - unit.getLineMap().getLineNumber(start) + 1);
                methods.add(new Sized(file + "." + method.getName(), size));
            }
            return super.visitMethod(method, none);
        }
    }

    private void add(Figures other) {
        files.addAll(other.files);
        methods.addAll(other.methods);
        records.addAll(other.records);
        lines += other.lines;
        comments += other.comments;
        types += other.types;
        documented += other.documented;
        open += other.open;
    }

    private void over(String folder, List<String> over) {
        name(files, FILE, "lines in", over);
        name(methods, METHOD, "lines in", over);
        name(records, COMPONENTS, "components in", over);
        if (folder.contains("core/") && share(open, types) > OPEN_IN_CORE) {
            over.add(share(open, types) + " % of the types in " + folder + " are public");
        }
    }

    private static void name(List<Sized> all, int limit, String what, List<String> over) {
        all.stream()
                .filter(one -> one.size > limit && TABLES.stream().noneMatch(one.name::startsWith))
                .sorted(Comparator.comparingInt(Sized::size).reversed())
                .forEach(one -> over.add(one.size + " " + what + " " + one.name));
    }

    private void print(String folder) {
        System.out.printf(
                Locale.ROOT,
                "| %s | %d | %s | %s | %d %% | %d %% | %d %% | %d |%n",
                folder.replace("/src/main/java", ""),
                files.size(),
                p(files, 50) + "/" + p(files, 90) + "/" + p(files, 100),
                p(methods, 50) + "/" + p(methods, 90) + "/" + p(methods, 100),
                share(comments, lines),
                share(documented, types),
                share(open, types),
                records.isEmpty() ? 0 : p(records, 100));
    }

    private static int share(int part, int whole) {
        return whole == 0 ? 0 : Math.round(100f * part / whole);
    }

    /** The smallest size that this share of them does not exceed. */
    private static int p(List<Sized> all, int percent) {
        int[] sizes = all.stream().mapToInt(Sized::size).sorted().toArray();
        return sizes.length == 0 ? 0 : sizes[Math.max(0, (int) Math.ceil(sizes.length * percent / 100.0) - 1)];
    }
}
