package yemble.core.survey;

import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Predicate;
import java.util.function.Supplier;
import yemble.core.name.ColumnName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * Looks for personal data: names and a random sample of the values of every column, weighed
 * together, with what stands around the column. A column that refers to another one is of that
 * one's kind.
 *
 * <p>One thread reads samples, table after table; others weigh them meanwhile. A table that takes
 * longer than it may is weighed by what was read of it.
 */
public final class Survey {
  private static final int ROUNDS = 3;

  private final Supplier<Reader> readers;
  private final String database;
  private final Conventions conventions;
  private final Options options;
  private final Checks checks;
  private final Progress progress;
  private final ScheduledExecutorService watch =
      Executors.newSingleThreadScheduledExecutor(task -> daemon(task, "survey watch"));
  private Reader source;

  /**
   * How much is looked at.
   *
   * @param rows sampled of each table
   * @param time that the sample of one table may take
   * @param threads that weigh
   * @param examples how many values of each column are kept to be shown; 0 for none
   * @param asOf the day that ages are counted at
   * @param tables which are looked at
   */
  public record Options(
      int rows,
      Duration time,
      int threads,
      int examples,
      LocalDate asOf,
      Predicate<Table> tables) {}

  /** Is told how a survey goes on. */
  public interface Progress {
    /** Before a table is looked at. */
    void table(Table table);

    /** A table cannot be read: its columns stay undecided. */
    default void unread(Table table, Problem why) {}

    /** What speaks for which kinds of a column, the likeliest first; from several threads. */
    default void weighed(ColumnName column, List<Evidence> kinds) {}
  }

  /**
   * What was found in a table.
   *
   * @param findings of its columns, in their order, each followed by those of its paths
   * @param rows how many were looked at
   * @param size how many rows the table has; -1 if nobody knows
   * @param complete whether the sample is as large as it should be
   * @param sampling how long reading the sample took
   */
  public record TableResult(
      String table,
      List<Finding> findings,
      long rows,
      long size,
      boolean complete,
      Duration sampling) {
    public TableResult {
      findings = List.copyOf(findings);
    }
  }

  private Survey(
      Supplier<Reader> readers,
      String database,
      Conventions conventions,
      Options options,
      Progress progress) {
    this.readers = readers;
    this.database = database;
    this.conventions = conventions;
    this.options = options;
    this.checks = new Checks(conventions, options.asOf());
    this.progress = progress;
  }

  /**
   * The findings for every column of the tables that are looked at, in the order of the schema.
   *
   * @param source is read; it is closed, or replaced by a new one, if a table takes too long
   * @param readers opens the same database once more
   * @param database what the project calls it
   * @param state what an interrupted survey has found already, and where results are kept
   */
  public static List<TableResult> of(
      Reader source,
      Supplier<Reader> readers,
      String database,
      Conventions conventions,
      Options options,
      SurveyState state,
      Progress progress) {
    Survey survey = new Survey(readers, database, conventions, options, progress);
    survey.source = source;
    try {
      return survey.tables(state);
    } finally {
      if (survey.source != source) {
        survey.source.close();
      }
    }
  }

  private List<TableResult> tables(SurveyState state) {
    Schema schema = source.schema();
    Map<ColumnName, String> comments = source.comments();
    Weigher weigher = new Weigher(checks, conventions, database, progress::weighed);
    Map<String, Future<TableResult>> waiting = new LinkedHashMap<>();
    ExecutorService weighing =
        Executors.newFixedThreadPool(options.threads(), task -> daemon(task, "survey"));
    Semaphore room = new Semaphore(2 * options.threads());
    try {
      for (Table table : schema.tables()) {
        if (!options.tables().test(table)) {
          continue;
        }
        progress.table(table);
        TableResult found = state.found(table);
        if (found != null) {
          waiting.put(table.name().toString(), CompletableFuture.completedFuture(found));
          continue;
        }
        room.acquire();
        TableSurvey survey = new TableSurvey(table, checks, options.examples() > 0);
        Sampled sampled;
        try {
          sampled = sample(table, survey);
        } catch (Problem unreadable) {
          room.release();
          progress.unread(table, unreadable);
          waiting.put(table.name().toString(), CompletableFuture.completedFuture(unread(table)));
          source = readers.get(); // Some databases do nothing more in a session that saw an error.
          continue;
        }
        waiting.put(
            table.name().toString(),
            weighing.submit(
                () -> {
                  try {
                    TableResult result =
                        new TableResult(
                            table.name().toString(),
                            survey.findings(schema, comments, weigher, options.examples()),
                            sampled.rows,
                            sampled.size,
                            sampled.complete,
                            sampled.took);
                    state.keep(table, result);
                    return result;
                  } finally {
                    room.release();
                  }
                }));
      }
      List<TableResult> results = new ArrayList<>();
      for (Future<TableResult> future : waiting.values()) {
        results.add(future.get());
      }
      return followLinks(schema, results);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.of(Failure.INTERRUPTED, "the survey was interrupted").causedBy(e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException cause) {
        throw cause;
      }
      throw new IllegalStateException(e.getCause());
    } finally {
      weighing.shutdownNow();
      watch.shutdownNow();
    }
  }

  /** What is known of a table that cannot be read. */
  private static TableResult unread(Table table) {
    return new TableResult(
        table.name().toString(),
        table.columns().stream().map(column -> Finding.unread(table, column)).toList(),
        0,
        -1,
        false,
        Duration.ZERO);
  }

  private static Thread daemon(Runnable task, String name) {
    Thread thread = new Thread(task, name);
    thread.setDaemon(true);
    return thread;
  }

  /** How a sample was read. */
  private record Sampled(long rows, long size, boolean complete, Duration took) {}

  /** Ends a sample that takes too long, from within. */
  private static final class OutOfTime extends RuntimeException {
    private static final long serialVersionUID = 1;

    OutOfTime() {
      super(null, null, false, false);
    }
  }

  private Sampled sample(Table table, TableSurvey survey) {
    long start = System.nanoTime();
    long end = start + options.time().toNanos();
    long[] rows = new long[1];
    AtomicBoolean aborted = new AtomicBoolean();
    Reader reading = source;
    ScheduledFuture<?> alarm =
        watch.schedule(
            () -> {
              aborted.set(true);
              reading.abort();
            },
            options.time().plusMillis(500).toMillis(),
            TimeUnit.MILLISECONDS);
    boolean complete = true;
    long size = -1;
    try {
      size = reading.rowsAbout(table);
      reading.sample(
          table,
          table.columns(),
          options.rows(),
          (row, values) -> {
            survey.add(values);
            rows[0]++;
            if (System.nanoTime() > end) {
              throw new OutOfTime();
            }
          });
    } catch (OutOfTime e) {
      complete = false;
    } catch (Problem e) {
      if (!aborted.get()) {
        throw e;
      }
      complete = false;
      source = readers.get();
    } finally {
      if (!alarm.cancel(false) && complete) {
        source = readers.get(); // It rang behind the last row: this reader is good for nothing.
      }
    }
    return new Sampled(rows[0], size, complete, Duration.ofNanos(System.nanoTime() - start));
  }

  /** A column that refers to another one is what that one is. */
  private static List<TableResult> followLinks(Schema schema, List<TableResult> results) {
    Map<String, Finding> findings = new LinkedHashMap<>();
    results.forEach(r -> r.findings().forEach(f -> findings.put(f.name(), f)));
    for (int round = 0; round < ROUNDS; round++) {
      for (Link link : schema.foreignKeys()) {
        for (int i = 0; i < link.childColumns().size(); i++) {
          Table child = schema.table(link.child());
          Table parent = schema.table(link.parent());
          Column from = child.column(link.childColumns().get(i)).orElseThrow();
          Column to = parent.column(link.parentColumns().get(i)).orElseThrow();
          Finding above = findings.get(parent.name(to).toString());
          Finding below = findings.get(child.name(from).toString());
          if (above != null && below != null && above != below && !below.isUnread()) {
            findings.put(below.name(), below.like(above, SurveyWording.REFERS.of(above.name())));
          }
        }
      }
    }
    return results.stream()
        .map(
            r ->
                new TableResult(
                    r.table(),
                    r.findings().stream().map(f -> findings.get(f.name())).toList(),
                    r.rows(),
                    r.size(),
                    r.complete(),
                    r.sampling()))
        .toList();
  }
}
