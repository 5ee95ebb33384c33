package yemble.core.verify;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import yemble.core.kind.Kinds;
import yemble.core.mark.Comparison;
import yemble.core.mark.Digest;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.mask.Masks;
import yemble.core.mask.text.JsonText;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.plan.Plan;
import yemble.core.plan.RowMasker;
import yemble.core.plan.TablePlan;
import yemble.core.plan.Unchanged;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule.Broken;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Rule;
import yemble.core.subset.Selection;

/** Checks a loaded target against the source, the plan and the key. */
public final class Verifier {
  private static final List<String> ORDER =
      List.of(
          "as loaded",
          "changed since",
          "source since",
          "rows",
          "references",
          "kept values",
          "no leak",
          "masks change",
          "absence",
          "equal stays equal",
          "unique stays unique",
          "paths in JSON");

  private final Reader source;
  private final Reader target;
  private final Plan plan;
  private final Selection selection;
  private final Masks masks;
  private Comparison comparison;
  private int unrepeatable;
  private final Progress progress;
  private final Map<String, Sample> scopes = new TreeMap<>();
  private final List<TableProof> proofs = new ArrayList<>();
  private final Digest digest = new Digest();
  private byte[] digestKey = RowDigest.newKey();
  private Optional<AsLoaded> mark = Optional.empty();
  private boolean otherRules;
  private Set<TableName> only = Set.of();
  private final List<String> others = new ArrayList<>();
  private final Absence absence;
  private final Kinds kinds;
  private final Map<ColumnName, JsonText> jsons = new TreeMap<>();
  private final List<String> rowFaults = new ArrayList<>();
  private final List<String> valueFaults = new ArrayList<>();
  private final List<String> leakFaults = new ArrayList<>();
  private final List<String> unchangedFaults = new ArrayList<>();
  private final List<String> idle = new ArrayList<>();
  private long changing;
  private final List<String> equalFaults = new ArrayList<>();

  /** Is told of each table that has been looked at. */
  public interface Progress {
    void table(Table table, long rows);
  }

  /**
   * @param comparison the form in which values are compared
   * @param kinds what the project knows
   * @param accepted columns in which a person accepts originals, {@code table.column}
   */
  public Verifier(
      Reader source,
      Reader target,
      Plan plan,
      Selection selection,
      Masks masks,
      Comparison comparison,
      Kinds kinds,
      Set<String> accepted,
      Progress progress) {
    this.kinds = kinds;
    this.absence = new Absence(kinds, accepted);
    this.source = source;
    this.target = target;
    this.plan = plan;
    this.selection = selection;
    this.masks = masks;
    this.comparison = comparison;
    this.progress = progress;
  }

  /**
   * The same for a target that an earlier run has loaded: what was fresh then is not compared.
   *
   * @param asLoaded what its mark remembers of the load; empty if that is not known
   * @param rulesChanged whether project, register or key ask for something else than at the load
   */
  public Verifier later(Optional<AsLoaded> asLoaded, boolean rulesChanged) {
    Unrepeatable less = new Unrepeatable(comparison, plan);
    unrepeatable = less.columns();
    comparison = less;
    mark = asLoaded;
    otherRules = rulesChanged;
    mark.ifPresent(known -> digestKey = known.load().digestKey());
    return this;
  }

  /** The key under which rows are digested, for the mark. */
  public byte[] digestKey() {
    return digestKey;
  }

  /** What a mark may remember of the tables; once they have been proved. */
  public List<LoadedTable> loadedTables() {
    return proofs.stream().map(TableProof::remembered).toList();
  }

  /** The same, keeping a few of the originals that are found for {@link #examples()}. */
  public Verifier showing() {
    absence.keepExamples();
    return this;
  }

  /** Originals that were found, by the column of the target; empty unless {@link #showing()}. */
  public Map<String, List<String>> examples() {
    return absence.examples();
  }

  /** All findings, in a fixed order. */
  public List<Outcome> findings() {
    plan.tables().forEach(this::sum);
    // Only now all originals are known, which changed rows are searched for.
    proofs.forEach(this::pair);
    List<Outcome> findings = new ArrayList<>();
    mark.ifPresent(asLoaded -> findings.addAll(asLoaded.alone().findings()));
    sourceSince().ifPresent(findings::add);
    findings.addAll(compared());
    findings.add(references());
    findings.add(
        Outcome.of(
                "masks change",
                unchangedFaults,
                changing
                    + " masked columns hold other values than before"
                    + (idle.isEmpty()
                        ? ""
                        : "; no text changes in "
                            + String.join(", ", idle)
                            + ", where nothing was found to be personal"),
                counted(unchangedFaults.size(), "column")
                    + (unchangedFaults.size() == 1 ? " is" : " are")
                    + " to be masked, and as before")
            .counting(
                "columns", changing, "unchanged", unchangedFaults.size(), "idle", idle.size()));
    findings.add(absence());
    findings.add(
        TargetChecks.unique(
            target, plan.schema().tables().stream().filter(table -> !missing(table)).toList()));
    if (!jsons.isEmpty()) {
      findings.add(paths());
    }
    findings.sort(Comparator.comparingInt(finding -> ORDER.indexOf(finding.check())));
    return findings;
  }

  /** What comes of comparing rows with what the source's become now. */
  private List<Outcome> compared() {
    long left = proofs.stream().mapToLong(TableProof::left).sum();
    long all = proofs.stream().mapToLong(TableProof::foundRows).sum();
    if (mark.isPresent() && left > 0 && left >= all) {
      String why = "no row is what the source's becomes now: see source since";
      return Stream.of("rows", "kept values", "no leak", "equal stays equal")
          .map(check -> new Outcome(check, Outcome.Result.NOT_CHECKED, why, List.of()))
          .toList();
    }
    String those = left > 0 ? " in the rows that are compared" : "";
    return List.of(
        Outcome.of("rows", rowFaults, rowFigures(left), rowFigures(left))
            .counting("rows", all, "asked_for", expectedRows(), "tables", proofs.size()),
        Outcome.of(
            "kept values",
            valueFaults,
            "unmasked cells are what they were" + those,
            "unmasked cells are not what they were"),
        noLeak(),
        Outcome.of("equal stays equal", equalFaults, equalFigures(), "one value became several"));
  }

  /** What would be others if the load were made now, though nobody has changed the target. */
  private Optional<Outcome> sourceSince() {
    List<String> details = new ArrayList<>(others);
    long rows = 0;
    for (TableProof proof : proofs) {
      if (!proof.differences.movedOn.isEmpty()) {
        details.add(proof.plan().table().name() + ": " + proof.differences.movedOn.words());
        rows += proof.differences.movedOn.rows();
      }
    }
    if (details.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new Outcome(
            "source since",
            Outcome.Result.NOT_CHECKED,
            (otherRules
                    ? "project, register or key ask for something else than at the load"
                    : "the source has moved on")
                + (rows > 0 ? ": " + counted(rows, "row") + " would be others if loaded now" : ""),
            details));
  }

  /** Searches the target for originals, once all of them are known. */
  private Outcome absence() {
    Comparison whole = comparison instanceof Unrepeatable less ? less.whole() : comparison;
    for (TablePlan table : plan.tables()) {
      if (!missing(table.table())) {
        absence.search(target, table, whole);
      } else if (!isLeftOut(table.table()) && target.schema().table(table.table().name()) != null) {
        absence.unsearched(table.table());
      }
    }
    return absence.finding();
  }

  /** A column to be masked must change, unless chance or its kind explain that it did not. */
  private void changes(String name, Unchanged column) {
    if (column.isFault(kinds)) {
      unchangedFaults.add(name + ": " + column.words());
    } else if (column.isIdle()) {
      idle.add(name);
    } else if (column.cells() > column.same()) {
      changing++;
    }
  }

  private void sum(TablePlan table) {
    if (isLeftOut(table.table())) {
      return;
    }
    Optional<LoadedTable> loaded =
        mark.flatMap(known -> known.comparable(table.table(), comparison));
    if (missing(table.table()) || (mark.isPresent() && loaded.isEmpty())) {
      lacking(table.table());
      return;
    }
    RowMasker masker = new RowMasker(source, plan, table, selection, masks);
    TableProof proof =
        new TableProof(
            table,
            selection.part(table.table().name()).in(),
            masker,
            digest,
            digestKey,
            loaded,
            scopes,
            comparison,
            absence);
    proof.sum(target);
    proof.unchanged.forEach(this::changes);
    jsons.putAll(masker.jsons());
    proofs.add(proof);
    progress.table(table.table(), proof.expectedRows());
  }

  /** A table that cannot be compared. */
  private void lacking(Table table) {
    if (mark.isEmpty()) {
      rowFaults.add(table.name() + " is missing, or has lost a column");
      return;
    }
    boolean known = mark.get().load().table(comparison.there(table)).isPresent();
    others.add(
        table.name()
            + (known
                ? ": is not compared, as its columns are others than when it was loaded"
                : ": a table that was not loaded"));
  }

  private void pair(TableProof proof) {
    proof.pair(target);
    Differences found = proof.differences;
    absence.held(found.held(proof.sides(), column -> kinds.original(column.kind()).among()));
    Table table = proof.plan().table();
    mark.ifPresent(known -> known.put(comparison.there(table), found.since));
    String name = table.name().toString();
    if (found.missing > 0) {
      rowFaults.add(name + ": " + counted(found.missing, "row") + " of the plan missing");
    }
    if (found.extra > 0) {
      rowFaults.add(name + ": " + counted(found.extra, "row") + " too many");
    }
    found.altered.forEach(
        (column, cells) -> valueFaults.add(column + ": " + counted(cells, "cell") + " altered"));
    found.leaks.forEach(
        (column, cells) ->
            leakFaults.add(
                column
                    + ": "
                    + counted(cells, "cell")
                    + " not what the mask makes of the source's"));
    proof.unequal.forEach(
        (column, cells) ->
            equalFaults.add(
                column
                    + ": in "
                    + counted(cells, "cell")
                    + " equal values of the source became different ones"));
  }

  /** The same for some tables alone: nothing is said of any other. */
  public Verifier only(Set<TableName> tables) {
    only = Set.copyOf(tables);
    return this;
  }

  private boolean isLeftOut(Table table) {
    return !only.isEmpty() && !only.contains(table.name());
  }

  private boolean missing(Table table) {
    if (isLeftOut(table)) {
      return true;
    }
    Table found = target.schema().table(table.name());
    return found == null
        || table.written().stream().anyMatch(c -> found.column(c.name()).isEmpty());
  }

  private long expectedRows() {
    return proofs.stream().mapToLong(TableProof::expectedRows).sum();
  }

  /**
   * @param left how many rows of the target are not compared
   */
  private String rowFigures(long left) {
    long expected = expectedRows();
    long found = proofs.stream().mapToLong(TableProof::foundRows).sum();
    if (mark.isPresent() && (left > 0 || found != expected)) {
      return number(found - left)
          + " of "
          + number(found)
          + " rows in "
          + proofs.size()
          + " tables are those that the rules ask for now";
    }
    return number(found)
        + " rows in "
        + proofs.size()
        + " tables, "
        + (found == expected ? "exactly those" : "not the " + number(expected))
        + " that the rules ask for";
  }

  private Outcome references() {
    if (!target.comparesKeys()) {
      return new Outcome("references", Outcome.Result.NOT_CHECKED, TargetChecks.BY_LOAD, List.of());
    }
    List<String> faults = new ArrayList<>();
    int links = 0;
    long kept = 0;
    List<String> unknown = new ArrayList<>();
    for (Rule rule : plan.request().rules()) {
      if (rule.cut()
          || missing(plan.schema().table(rule.link().child()))
          || missing(plan.schema().table(rule.link().parent()))) {
        continue;
      }
      long[] broken = new long[1];
      try {
        target.broken(rule.link(), row -> broken[0]++);
      } catch (Problem foreign) {
        // Not understood, or a function there that may act and is not allowed for the target.
        if (foreign.type() != Failure.Type.USAGE && foreign.type() != Failure.Type.REFUSED) {
          throw foreign;
        }
        unknown.add(rule.link().childEnd());
        continue;
      }
      long allowed =
          rule.broken() == Broken.KEEP ? selection.traffic(rule.link()).broken().size() : 0;
      kept += allowed;
      links++;
      if (broken[0] > allowed) {
        faults.add(rule.link() + ": " + counted(broken[0] - allowed, "row") + " without a parent");
      }
    }
    if (links + unknown.size() == 0) {
      return new Outcome(
          "references", Outcome.Result.NOT_CHECKED, "there is no link to follow", List.of());
    }
    return Outcome.of(
            "references",
            faults,
            "every reference of "
                + links
                + " links resolves"
                + (kept > 0 ? " but for " + number(kept) + " that did not in the source" : "")
                + (unknown.isEmpty()
                    ? ""
                    : "; not checked, as the target does not understand its condition: "
                        + String.join(", ", unknown)),
            "references of "
                + counted(faults.size(), "link")
                + " out of "
                + links
                + " do not resolve")
        .counting("links", links, "not_checked", unknown.size(), "broken_in_the_source", kept);
  }

  private Outcome noLeak() {
    long cells = 0;
    long fixed = 0;
    long coincidences = 0;
    boolean sampled = false;
    for (TableProof proof : proofs) {
      cells += proof.maskedCells - proof.differences.uncompared;
      fixed += proof.fixedPoints;
      coincidences += proof.coincidences;
    }
    for (Sample sample : scopes.values()) {
      sampled |= sample.scale() > 1;
    }
    String figures =
        number(cells)
            + " masked cells recomputed"
            + (unrepeatable > 0
                ? " (but for " + counted(unrepeatable, "column") + " fresh in each run)"
                : "")
            + "; "
            + number(fixed)
            + " that the mask leaves as they are, "
            + (sampled ? "about " : "")
            + number(coincidences)
            + " that somebody else had before";
    return Outcome.of("no leak", leakFaults, figures, figures)
        .counting(
            "masked_cells",
            cells,
            "left_by_the_mask",
            fixed,
            "others_had_before",
            coincidences,
            "columns_fresh",
            unrepeatable);
  }

  private String equalFigures() {
    List<String> figures = new ArrayList<>();
    scopes.forEach(
        (scope, sample) -> {
          long before = sample.distinct();
          long after = sample.distinctValues();
          if (after < before) {
            int shown = scope.indexOf(TableProof.BEHIND);
            figures.add(
                (shown < 0 ? scope : scope.substring(0, shown))
                    + " "
                    + number(before)
                    + " → "
                    + number(after));
          }
        });
    return figures.isEmpty()
        ? "as many different values as before in every kind"
        : "different values: " + String.join(", ", figures) + "; all others as many as before";
  }

  /** What stood in JSON at paths that the register does not know: masked by shape, and counted. */
  private Outcome paths() {
    List<String> unknown = new ArrayList<>();
    jsons.forEach(
        (column, json) -> {
          if (json.unknownValues() > 0) {
            unknown.add(
                column
                    + " "
                    + counted(json.unknownValues(), "value")
                    + " at "
                    + counted(json.unknownPaths(), "path"));
          }
        });
    return Outcome.of(
        "paths in JSON",
        List.of(),
        unknown.isEmpty()
            ? "every path is in the register"
            : "not in the register, masked by their shape: " + String.join(", ", unknown),
        "");
  }

  private static String counted(long number, String noun) {
    return number(number) + " " + noun + (number == 1 ? "" : "s");
  }

  private static String number(long number) {
    return String.format(Locale.ROOT, "%,d", number);
  }
}
