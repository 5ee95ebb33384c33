package yemble.jdbc.rows;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;
import yemble.core.store.Script;

/**
 * A script under way: one file of statements. One, as a client goes on after an error in a file
 * that another one calls ({@code mariadb} does), and nobody needs to stand in the right folder.
 */
public abstract class ScriptText implements Script {
  protected static final String HERE = "holds what this script makes: load it into an empty one";
  protected static final String LOST = "rows are missing that the script holds";

  private final Path file;
  private final OutputStream out;
  private final Map<Table, Long> written = new LinkedHashMap<>();

  protected ScriptText(Path folder) {
    this.file = folder.resolve(FILE);
    try {
      out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16);
    } catch (IOException e) {
      throw failed(file, e);
    }
  }

  protected static Problem failed(Path file, IOException e) {
    return Problem.of(Failure.FILE_UNWRITABLE, "the script cannot be written")
        .at(file.toString())
        .because("the system refuses it")
        .remedy("see whether the disk is full; name a folder that you may write to")
        .causedBy(e);
  }

  protected final void bytes(byte[] bytes, int length) {
    try {
      out.write(bytes, 0, length);
    } catch (IOException e) {
      throw failed(file, e);
    }
  }

  protected final void text(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    bytes(bytes, bytes.length);
  }

  protected final void lines(String... lines) {
    for (String line : lines) {
      text(line);
      text("\n");
    }
  }

  /** A line that the client does not read. */
  protected final void comment(String words) {
    lines("-- " + words.replaceAll("\\R", " "));
  }

  protected final void blank() {
    text("\n");
  }

  /** A statement with its end; a comment at its end must not swallow that. */
  protected final void statement(String sql) {
    boolean comment = sql.substring(sql.lastIndexOf('\n') + 1).contains("--");
    lines(sql + (comment ? "\n;" : ";"));
  }

  /** How many rows of each table have been written. */
  protected final Map<Table, Long> written() {
    return written;
  }

  protected final long allWritten() {
    return written.values().stream().mapToLong(Long::longValue).sum();
  }

  /** Where rows of a table go. */
  protected abstract CarefulWriter writer(Table table);

  @Override
  public final RowWriter rows(Table table) {
    CarefulWriter writer = writer(table);
    written.put(table, 0L);
    return new RowWriter() {
      private long rows;

      @Override
      public void write(long row, Object[] values) {
        writer.write(row, values);
        rows++;
      }

      @Override
      public void close() {
        writer.close();
        written.put(table, rows);
      }
    };
  }

  protected static String counted(long number, String what) {
    return String.format(java.util.Locale.ROOT, "%,d %s%s", number, what, number == 1 ? "" : "s");
  }

  /** What is said once everything is in. */
  protected final String done() {
    return counted(allWritten(), "row") + " in " + counted(written.size(), "table") + " loaded";
  }

  /** The names of a list, each as the engine writes a text. */
  protected static String list(List<String> literals) {
    return String.join(", ", literals);
  }

  @Override
  public final void close() {
    try {
      out.close();
    } catch (IOException e) {
      throw failed(file, e);
    }
  }

  /** Everything is in the file. */
  protected final void complete() {
    try {
      out.flush();
    } catch (IOException e) {
      throw failed(file, e);
    }
  }
}
