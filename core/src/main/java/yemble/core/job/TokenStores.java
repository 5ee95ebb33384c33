package yemble.core.job;

import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;
import java.util.function.Predicate;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.mask.step.Own;
import yemble.core.mask.step.Token;
import yemble.core.mask.step.TokenMask;
import yemble.core.moment.Now;
import yemble.core.name.ColumnName;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.StoreSettings;
import yemble.core.row.Blanks;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.store.Conveyor;
import yemble.core.store.Engine;
import yemble.core.store.Maskers;
import yemble.core.store.Origin;
import yemble.core.store.Target;
import yemble.core.store.TokenTables;
import yemble.core.token.TokenStore;
import yemble.core.wording.Sentence;

/**
 * The token stores of a project: opened where nothing else of the project lies, asked for the keys
 * that tokens are made under, and given what leads back before the first row is copied.
 */
public final class TokenStores {
  private static final int BATCH = 10_000;

  private final Project project;
  private final Map<String, String> environment;
  private final Function<Engine.Address, Engine> engines;

  public TokenStores(
      Project project, Map<String, String> environment, Function<Engine.Address, Engine> engines) {
    this.project = project;
    this.environment = environment;
    this.engines = engines;
  }

  /**
   * What was kept of a column.
   *
   * @param values how many cells there are a way back from
   * @param took how long it took to read the values and to keep their tokens
   * @param until the last day of that way; empty for ever
   */
  public record Kept(
      String store, String column, long values, Duration took, Optional<LocalDate> until) {}

  /**
   * Opens a store.
   *
   * @throws Problem of type REFUSED if it lies in a database of the project, or has the project's
   *     key, of type DATABASE if it is not there or another key's
   */
  public TokenStore open(StoreSettings settings, SecretKey projectKey) {
    SecretKey key = key(settings, projectKey);
    TokenTables tables;
    try {
      tables = tables(settings, false);
    } catch (Problem problem) {
      throw problem.failure() == Failure.DATABASE_MISSING
          ? TokenStore.missing(settings.name(), problem.where())
          : problem;
    }
    try {
      return TokenStore.open(settings.name(), tables, key);
    } catch (RuntimeException e) {
      tables.close();
      throw e;
    }
  }

  /** Makes a store; where, for people. */
  public String begin(StoreSettings settings, SecretKey projectKey) {
    SecretKey key = key(settings, projectKey);
    try (TokenTables tables = tables(settings, true)) {
      return TokenStore.begin(settings.name(), tables, key).description();
    }
  }

  private SecretKey key(StoreSettings settings, SecretKey projectKey) {
    SecretKey key = settings.key(project.directory(), environment);
    if (key.reveal().equals(projectKey.reveal())) {
      throw settings
          .key()
          .place()
          .problem(Failure.STORE_PLACE, "the store " + settings.name() + " has the project's key")
          .because("whoever masks could then lead back, too")
          .remedy("make it one of its own: yemble key new store " + settings.name() + ".key");
    }
    return key;
  }

  private TokenTables tables(StoreSettings settings, boolean begins) {
    Engine.Address address = address(settings);
    Engine engine = engines.apply(address);
    for (Database other : project.databases().values()) {
      Engine.Address there = Opened.addressIfKnown(project.directory(), other, environment);
      if (there != null && (engine.isSame(address, there) || engine.wouldTouch(address, there))) {
        throw place(settings, other.title());
      }
    }
    return engine.tokens(address, settings.name(), begins);
  }

  private Engine.Address address(StoreSettings settings) {
    return Opened.address(project.directory(), settings.database(), environment);
  }

  private static Problem place(StoreSettings settings, String there) {
    return settings
        .database()
        .place()
        .problem(Failure.STORE_PLACE, "the store " + settings.name() + " lies in " + there)
        .because("what leads back to originals never lies where they are, or where masks are")
        .remedy("give the store a database, or a file, of its own");
  }

  /**
   * What tokens of a plan are made under, by store. Nothing is opened if it has none.
   *
   * @param source of the rows, to see that no store lies there under another name
   */
  Map<String, SecretKey> keys(Plan plan, Origin source, SecretKey projectKey) {
    Map<String, SecretKey> keys = new HashMap<>();
    Map<String, TablePlan.ColumnPlan> forms = new HashMap<>();
    columns(plan)
        .forEach(
            (name, column) -> {
              Token token = token(column);
              TablePlan.ColumnPlan first = forms.putIfAbsent(token.store(), column);
              if (first != null && !form(first).equals(form(column))) {
                throw column
                    .rule()
                    .place()
                    .problem(
                        Failure.RULES_CONTRADICT,
                        "the store " + token.store() + " would hold tokens of two forms")
                    .because(
                        "those of "
                            + name
                            + " could meet those that are said at "
                            + first.rule().place())
                    .remedy("write the same like: for both, or give each a store of its own");
              }
              keys.computeIfAbsent(token.store(), store -> permutation(store, source, projectKey));
            });
    return keys;
  }

  private static String form(TablePlan.ColumnPlan column) {
    Token token = token(column);
    return token.like() == null ? "kind " + column.kind() : token.like().toString();
  }

  private SecretKey permutation(String name, Origin source, SecretKey projectKey) {
    StoreSettings settings = project.store(name);
    try (TokenStore store = open(settings, projectKey);
        Target place = engines.apply(address(settings)).target(address(settings))) {
      if (place.relation(source) == Target.Relation.SAME) {
        throw place(settings, "the source");
      }
      return store.permutation();
    }
  }

  /** The columns of a plan that become tokens. */
  private static Map<ColumnName, TablePlan.ColumnPlan> columns(Plan plan) {
    Map<ColumnName, TablePlan.ColumnPlan> columns = new TreeMap<>();
    for (TablePlan table : plan.tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.masked() && column.rule().token().isPresent()) {
          columns.put(table.table().name(column.column()), column);
        }
      }
    }
    return columns;
  }

  private static Token token(TablePlan.ColumnPlan column) {
    return column.rule().token().orElseThrow();
  }

  /** Each way back that a project leaves open, in words: column, store, how long. */
  public static List<Sentence> waysBack(Project project) {
    List<Sentence> ways = new ArrayList<>();
    for (Conventions.ColumnRule column : project.conventions().columns()) {
      column
          .rule()
          .token()
          .map(token -> project.stores().get(token.store()))
          .ifPresent(
              store ->
                  ways.add(
                      store
                          .keep()
                          .map(
                              keep ->
                                  JobWording.BY_STORE_UNTIL.of(
                                      column.name(), store.name(), keep.toDays()))
                          .orElseGet(() -> JobWording.BY_STORE.of(column.name(), store.name()))));
      for (Own own : column.rule().own()) {
        if (own.mask().reversible()) {
          ways.add(JobWording.BY_MASK.of(column.name(), own.name()));
        }
      }
    }
    return ways;
  }

  /**
   * Keeps what leads back from the tokens of a job's rows, before any of them is copied. What has
   * been kept longer than its store keeps anything goes.
   *
   * @throws Problem of type USAGE if values are not like their pattern
   */
  List<Kept> keep(Preparation job, Progress progress) {
    List<Kept> kept = new ArrayList<>();
    Map<String, TokenStore> open = new LinkedHashMap<>();
    try {
      for (Map.Entry<ColumnName, TablePlan.ColumnPlan> each : columns(job.plan()).entrySet()) {
        if (job.isPart() && !job.only().contains(each.getKey().table())) {
          continue;
        }
        StoreSettings settings = project.store(token(each.getValue()).store());
        TokenStore store = open.computeIfAbsent(settings.name(), name -> open(settings, job.key()));
        long start = System.nanoTime();
        long values = keep(job, store, each.getKey(), each.getValue(), progress);
        LocalDate today = Now.dayInUtc();
        Optional<LocalDate> until = settings.keep().map(time -> today.plusDays(time.toDays()));
        kept.add(
            new Kept(
                settings.name(),
                each.getKey().toString(),
                values,
                Duration.ofNanos(System.nanoTime() - start),
                until));
        settings.keep().ifPresent(time -> store.expire(today.minusDays(time.toDays())));
      }
    } finally {
      open.values().forEach(TokenStore::close);
    }
    return kept;
  }

  private static long keep(
      Preparation job,
      TokenStore store,
      ColumnName name,
      TablePlan.ColumnPlan column,
      Progress progress) {
    TablePlan table = job.plan().table(name.table());
    RowSet rows = job.selection().part(name.table()).in();
    progress.begin(Phase.KEEPING_TOKENS, rows.size());
    AtomicLong fitting = new AtomicLong();
    AtomicLong unfit = new AtomicLong();
    try (TokenStore.Keeping keeping = store.keeping(name.toString());
        Maskers maskers = new Maskers(() -> List.of(change(job, column)))) {
      Conveyor<List<TokenTables.Entry>, RuntimeException> conveyor =
          new Conveyor<>(name.toString(), keeping::addAll);
      Predicate<String> like = like(job, column);
      List<Object> waiting = new ArrayList<>(BATCH);
      Runnable hand =
          () -> {
            List<Object> values = List.copyOf(waiting);
            waiting.clear();
            progress.advance(values.size());
            conveyor.hand(maskers.mask(own -> sealed(store, own[0], like, values, fitting, unfit)));
          };
      try {
        job.source()
            .rows(
                table.table(),
                job.source().meeting(table.table(), column.rule().when(), rows),
                List.of(column.column()),
                (row, cells) -> {
                  if (!Blanks.STAY.stays(cells[0])) {
                    waiting.add(cells[0]);
                  }
                  if (waiting.size() == BATCH) {
                    hand.run();
                  }
                });
        hand.run();
        conveyor.finish();
      } finally {
        conveyor.stop();
      }
      if (unfit.get() > 0) {
        throw unfit(name, column, unfit.get(), fitting.get() + unfit.get());
      }
      keeping.finish();
    }
    progress.end();
    return fitting.get();
  }

  /** The mask of a column, for one of several threads. */
  private static CellChange change(Preparation job, TablePlan.ColumnPlan column) {
    Masks masks = new Masks(job.planned().masks());
    return masks.values(masks.of(column.kind(), column.rule().notKeyed())).cells();
  }

  /** What values, and their tokens, must be like. */
  private static Predicate<String> like(Preparation job, TablePlan.ColumnPlan column) {
    Mask mask = new Masks(job.planned().masks()).of(column.kind(), column.rule().notKeyed());
    return mask instanceof TokenMask tokens ? tokens::isFor : text -> true;
  }

  private static List<TokenTables.Entry> sealed(
      TokenStore store,
      CellChange change,
      Predicate<String> like,
      List<Object> values,
      AtomicLong fitting,
      AtomicLong unfit) {
    List<TokenTables.Entry> entries = new ArrayList<>(values.size());
    for (Object value : values) {
      if (value instanceof byte[]) {
        continue; // Nothing would lead back from what becomes of it.
      }
      String original = Values.text(value);
      String token = Values.text(change.apply(0, value));
      // A number may lose zeros at its beginning, and would then be another one's token.
      boolean whole = value instanceof String || token.length() == original.length();
      if (whole && like.test(original) && like.test(token)) {
        entries.add(store.seal(token, original));
      }
    }
    fitting.addAndGet(entries.size());
    unfit.addAndGet(values.size() - entries.size());
    return entries;
  }

  private static Problem unfit(ColumnName name, TablePlan.ColumnPlan column, long count, long of) {
    return column
        .rule()
        .place()
        .problem(
            Failure.TOKEN_UNFIT,
            String.format(
                Locale.ROOT, "%,d of %,d values of %s can have no token", count, of, name))
        .because("they are not like the pattern, or the column would change how a token is written")
        .remedy("write a pattern that all of them are like, or say when: for those that are");
  }
}
