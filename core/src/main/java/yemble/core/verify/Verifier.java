package yemble.core.verify;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
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
import yemble.core.plan.Agreement;
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
import yemble.core.wording.Sentence;

/** Checks a loaded target against the source, the plan and the key. */
public final class Verifier {
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
  private final List<Sentence> others = new ArrayList<>();
  private final Absence absence;
  private final Agreement agreement;
  private final Kinds kinds;
  private final Map<ColumnName, JsonText> jsons = new TreeMap<>();
  private final List<Sentence> rowFaults = new ArrayList<>();
  private final List<Sentence> valueFaults = new ArrayList<>();
  private final List<Sentence> leakFaults = new ArrayList<>();
  private final List<Sentence> unchangedFaults = new ArrayList<>();
  private final List<String> idle = new ArrayList<>();
  private long changing;
  private final List<Sentence> equalFaults = new ArrayList<>();

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
    this.agreement = new Agreement(kinds);
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
                Check.MASKS_CHANGE,
                unchangedFaults,
                ProofWording.CHANGING.of(
                    changing,
                    idle.isEmpty() ? Sentence.NONE : ProofWording.NO_TEXT_CHANGES.of(idle)),
                ProofWording.UNCHANGED.of(unchangedFaults.size()))
            .counting(
                "columns", changing, "unchanged", unchangedFaults.size(), "idle", idle.size()));
    findings.add(absence());
    findings.add(
        TargetChecks.unique(
            target, plan.schema().tables().stream().filter(table -> !missing(table)).toList()));
    if (agreement.pairs() > 0) {
      findings.add(agreement());
    }
    if (!jsons.isEmpty()) {
      findings.add(paths());
    }
    findings.sort(Comparator.comparing(Outcome::check));
    return findings;
  }

  /** What comes of comparing rows with what the source's become now. */
  private List<Outcome> compared() {
    long left = proofs.stream().mapToLong(TableProof::left).sum();
    long all = proofs.stream().mapToLong(TableProof::foundRows).sum();
    if (mark.isPresent() && left > 0 && left >= all) {
      Sentence why = ProofWording.NONE_COMPARED.of();
      return Stream.of(Check.ROWS, Check.KEPT_VALUES, Check.NO_LEAK, Check.EQUAL_STAYS_EQUAL)
          .map(check -> Outcome.unchecked(check, why))
          .toList();
    }
    Sentence those = left > 0 ? ProofWording.IN_COMPARED_ROWS.of() : Sentence.NONE;
    return List.of(
        Outcome.of(Check.ROWS, rowFaults, rowFigures(left), rowFigures(left))
            .counting("rows", all, "asked_for", expectedRows(), "tables", proofs.size()),
        Outcome.of(
            Check.KEPT_VALUES,
            valueFaults,
            ProofWording.KEPT.of(those),
            ProofWording.NOT_KEPT.of()),
        noLeak(),
        Outcome.of(
            Check.EQUAL_STAYS_EQUAL,
            equalFaults,
            equalFigures(),
            ProofWording.BECAME_SEVERAL.of()));
  }

  /** What would be others if the load were made now, though nobody has changed the target. */
  private Optional<Outcome> sourceSince() {
    List<Sentence> details = new ArrayList<>(others);
    long rows = 0;
    for (TableProof proof : proofs) {
      if (!proof.differences.movedOn.isEmpty()) {
        details.add(proof.differences.movedOn.of(proof.plan().table().name()));
        rows += proof.differences.movedOn.rows();
      }
    }
    if (details.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new Outcome(
            Check.SOURCE_SINCE,
            Outcome.Result.NOT_CHECKED,
            (otherRules ? ProofWording.RULES_ASK_ELSE : ProofWording.SOURCE_MOVED_ON)
                .of(rows > 0 ? ProofWording.WOULD_BE_OTHERS.of(rows) : Sentence.NONE),
            details));
  }

  /** Whether rows say of themselves what goes together; nothing that has to hold. */
  private Outcome agreement() {
    long rows = agreement.disagreeing();
    Sentence figures =
        rows == 0
            ? ProofWording.AGREE.of(agreement.looked())
            : ProofWording.DISAGREE.of(rows, agreement.looked());
    return new Outcome(
            Check.AGREEMENT,
            rows == 0 ? Outcome.Result.HOLDS : Outcome.Result.NOTED,
            figures,
            agreement.lines())
        .counting(
            "pairs_of_columns",
            agreement.pairs(),
            "looked_at",
            agreement.looked(),
            "disagree",
            rows);
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
      unchangedFaults.add(column.sentence().about(name));
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
            absence,
            agreement);
    proof.sum(target);
    proof.unchanged.forEach(this::changes);
    jsons.putAll(masker.jsons());
    proofs.add(proof);
    progress.table(table.table(), proof.expectedRows());
  }

  /** A table that cannot be compared. */
  private void lacking(Table table) {
    if (mark.isEmpty()) {
      rowFaults.add(ProofWording.TABLE_MISSING.of(table.name()));
      return;
    }
    boolean known = mark.get().load().table(comparison.there(table)).isPresent();
    others.add(
        (known ? ProofWording.COLUMNS_ARE_OTHERS : ProofWording.NOT_LOADED)
            .of()
            .about(table.name()));
  }

  private void pair(TableProof proof) {
    proof.pair(target);
    Differences found = proof.differences;
    absence.held(found.held(proof.sides(), column -> kinds.original(column.kind()).among()));
    Table table = proof.plan().table();
    mark.ifPresent(known -> known.put(comparison.there(table), found.since));
    TableName name = table.name();
    if (found.missing > 0) {
      rowFaults.add(ProofWording.ROWS_MISSING.of(found.missing).about(name));
    }
    if (found.extra > 0) {
      rowFaults.add(ProofWording.ROWS_EXTRA.of(found.extra).about(name));
    }
    found.altered.forEach(
        (column, cells) -> valueFaults.add(ProofWording.ALTERED.of(cells).about(column)));
    found.leaks.forEach(
        (column, cells) -> leakFaults.add(ProofWording.LEAKS.of(cells).about(column)));
    proof.unequal.forEach(
        (column, cells) -> equalFaults.add(ProofWording.BECAME_DIFFERENT.of(cells).about(column)));
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
  private Sentence rowFigures(long left) {
    long expected = expectedRows();
    long found = proofs.stream().mapToLong(TableProof::foundRows).sum();
    if (mark.isPresent() && (left > 0 || found != expected)) {
      return ProofWording.ROWS_NOW.of(found - left, found, proofs.size());
    }
    return found == expected
        ? ProofWording.ROWS_EXACT.of(found, proofs.size())
        : ProofWording.ROWS_OTHERS.of(found, proofs.size(), expected);
  }

  private Outcome references() {
    if (!target.comparesKeys()) {
      return Outcome.unchecked(Check.REFERENCES, ProofWording.KEYS_BY_LOAD.of());
    }
    List<Sentence> faults = new ArrayList<>();
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
        faults.add(ProofWording.NO_PARENT.of(broken[0] - allowed).about(rule.link()));
      }
    }
    if (links + unknown.size() == 0) {
      return Outcome.unchecked(Check.REFERENCES, ProofWording.NO_LINK.of());
    }
    return Outcome.of(
            Check.REFERENCES,
            faults,
            ProofWording.RESOLVE.of(
                links,
                kept > 0 ? ProofWording.BROKEN_IN_SOURCE.of(kept) : Sentence.NONE,
                unknown.isEmpty() ? Sentence.NONE : ProofWording.NOT_UNDERSTOOD.of(unknown)),
            ProofWording.RESOLVE_NOT.of(faults.size(), links))
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
    Sentence fresh = unrepeatable > 0 ? ProofWording.BUT_FRESH.of(unrepeatable) : Sentence.NONE;
    Sentence figures =
        (sampled ? ProofWording.RECOMPUTED_ABOUT : ProofWording.RECOMPUTED)
            .of(cells, fresh, fixed, coincidences);
    return Outcome.of(Check.NO_LEAK, leakFaults, figures, figures)
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

  private Sentence equalFigures() {
    List<Sentence> figures = new ArrayList<>();
    scopes.forEach(
        (scope, sample) -> {
          long before = sample.distinct();
          long after = sample.distinctValues();
          if (after < before) {
            int shown = scope.indexOf(TableProof.BEHIND);
            figures.add(
                ProofWording.FEWER_OF_ONE.of(
                    shown < 0 ? scope : scope.substring(0, shown), before, after));
          }
        });
    return figures.isEmpty() ? ProofWording.AS_MANY.of() : ProofWording.FEWER.of(figures);
  }

  /** What stood in JSON at paths that the register does not know: masked by shape, and counted. */
  private Outcome paths() {
    List<Sentence> unknown = new ArrayList<>();
    jsons.forEach(
        (column, json) -> {
          if (json.unknownValues() > 0) {
            unknown.add(
                ProofWording.PATHS_OF_ONE.of(
                    column.toString(), json.unknownValues(), json.unknownPaths()));
          }
        });
    return Outcome.of(
        Check.PATHS_IN_JSON,
        List.of(),
        unknown.isEmpty() ? ProofWording.PATHS_KNOWN.of() : ProofWording.PATHS_UNKNOWN.of(unknown),
        Sentence.NONE);
  }
}
