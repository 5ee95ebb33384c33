package yemble.core.job;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import yemble.core.crypto.SecretKey;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.moment.Now;
import yemble.core.name.TableName;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelSink;
import yemble.core.plan.Limits;
import yemble.core.plan.TablePlan;
import yemble.core.verify.Outcome;
import yemble.core.verify.Verifier;

/** Packs a prepared job into a parcel: all or nothing, proved before the parcel has a name. */
public final class Pack {
  private final Map<String, PinFilling.Filled> filled = new TreeMap<>();
  private Preparation job;
  private List<TokenStores.Kept> tokens = List.of();
  private final Limits.Report limits;
  private final Optional<SecretKey> seal;

  private Pack(Preparation job, Limits.Report limits, Optional<SecretKey> seal) {
    this.seal = seal;
    this.job = job;
    this.limits = limits;
  }

  /**
   * Looks whether masked values meet their limits.
   *
   * @param seal the key that the parcel is sealed with; empty for one that anybody can read
   * @throws yemble.core.problem.Problem of type USAGE if they do not
   */
  public static Pack of(Preparation job, Optional<SecretKey> seal) {
    return new Pack(job, job.masked().limits(job.from().register()), seal);
  }

  /** What masked values must meet, as far as it was looked at. */
  public Limits.Report limits() {
    return limits;
  }

  /**
   * What came of it.
   *
   * @param findings of the proof
   * @param rows packed, by table
   * @param committed whether the parcel is there; it is unless a check fails
   */
  public record Result(
      List<Outcome> findings,
      Map<TableName, Long> rows,
      boolean committed,
      Duration packing,
      Duration proving) {}

  /** Packs, proves, and gives the parcel its name if everything holds. */
  public Result into(Path file, String tool, String user, Progress progress) {
    job = job.remembering(filled);
    tokens = job.keepTokens(progress);
    ParcelSink.Contents contents =
        new ParcelSink.Contents(
            job.from().name(),
            job.from().environment(),
            job.opened().engine().family(),
            job.source().origin());
    try (ParcelSink sink = new ParcelSink(file, contents, job.source().outlineByValues(), seal)) {
      long start = System.nanoTime();
      progress.begin(Phase.PACKING, job.selection().size());
      Map<TableName, Long> rows = Pipe.pour(job.source(), job.flows(), sink, progress::advance);
      sink.finish(job.plan().schema(), job.source());
      progress.end();
      long packed = System.nanoTime();
      progress.begin(Phase.VERIFYING, job.selection().size());
      Verifier verifier =
          job.verifier(sink.reader(), Stages.NONE.comparison(sink.reader()), progress);
      List<Outcome> findings = new ArrayList<>(verifier.findings());
      job.sourceUntouched().ifPresent(findings::add);
      progress.end();
      long proved = System.nanoTime();
      boolean holds = findings.stream().noneMatch(Outcome::fails);
      if (holds) {
        sink.proved(masked(), findings.stream().map(Pack::proof).toList());
        sink.commit(new Mark(List.of(load(sink, verifier, tool, user))));
      }
      return new Result(
          findings,
          rows,
          holds,
          Duration.ofNanos(packed - start),
          Duration.ofNanos(proved - packed));
    }
  }

  private Loaded load(ParcelSink sink, Verifier verifier, String tool, String user) {
    return new Loaded(
        tool,
        Now.second(),
        user,
        job.job().name(),
        job.from().title(),
        job.key().fingerprint(),
        job.planned().rules(),
        job.selection().size(),
        sink.made(),
        verifier.digestKey(),
        verifier.loadedTables());
  }

  /** What was kept to lead back from tokens. */
  public List<TokenStores.Kept> tokens() {
    return tokens;
  }

  /** Who of the rows has an agreed stand-in, once they are packed. */
  public List<PinCounts> pins() {
    return job.pinCounts(filled, table -> 0L);
  }

  private Map<String, String> masked() {
    Map<String, String> masked = new LinkedHashMap<>();
    for (TablePlan table : job.plan().tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.masked()) {
          masked.put(table.table().name(column.column()).toString(), column.kind());
        }
      }
    }
    return masked;
  }

  private static Manifest.Proof proof(Outcome finding) {
    return new Manifest.Proof(
        finding.check().toString(), finding.result().toString(), finding.figures().toString());
  }
}
