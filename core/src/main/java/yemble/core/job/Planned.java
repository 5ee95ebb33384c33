package yemble.core.job;

import java.util.List;
import java.util.Map;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.LearnedNames;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.name.ColumnName;
import yemble.core.pin.Pins;
import yemble.core.plan.ColumnRules;
import yemble.core.plan.Gate;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.LearnedFile;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.store.Reader;
import yemble.core.subset.Request;
import yemble.core.subset.Requests;

/**
 * What a job asks for, and what it does to every column: made of schema, project, register and key
 * alone, so that another process can make the same.
 *
 * @param masks what masks are made of
 * @param rules what project, register and key ask for, as a digest: see {@link RulesDigest}
 */
public record Planned(Request request, Plan plan, Masks.Terms masks, String rules) {
  /**
   * The plan of a job.
   *
   * @param strict whether nothing may be open in the register, and links are checked; else what is
   *     open is kept as it is
   * @throws Problem of type USAGE if words of the project fit nothing in the schema
   */
  public static Planned of(
      Schema schema, Project project, Job job, Register register, SecretKey key, boolean strict) {
    return of(Requests.of(project, job, schema), schema, project, job, register, key, strict);
  }

  /** The same for rows that are rewritten where they stand: none of them can be left out. */
  static Planned inPlace(
      Schema schema, Project project, Job job, Register register, SecretKey key) {
    Request request = Requests.of(project, job, schema).keepingAll();
    return of(request, schema, project, job, register, key, true);
  }

  private static Planned of(
      Request request,
      Schema schema,
      Project project,
      Job job,
      Register register,
      SecretKey key,
      boolean strict) {
    Lookup lookup = new Lookup(schema);
    job.unfit().keySet().forEach(named -> lookup.column(named.name(), named.place().toString()));
    Database from = project.database(job.from(), job.fromAt());
    ColumnRules columnRules = ColumnRules.of(schema, project.conventions());
    Gate.Terms terms = Gate.Terms.of(project, from);
    Plan bare =
        strict
            ? Plan.of(schema, request, Gate.pass(schema, register, terms), columnRules)
            : Plan.loose(schema, request, Gate.read(schema, register, terms), columnRules);
    Plan plan = bare.with(Pins.of(project, schema, request.rules(), key, strict), strict);
    Masks.Terms masks =
        new Masks.Terms(
            key,
            SecretKey.random(),
            project.asOf(),
            project.conventions().kinds(),
            project.conventions().masks(),
            project.conventions().countries());
    LearnedNames learned = strict ? LearnedFile.of(project) : LearnedFile.readIfWanted(project);
    return new Planned(
        request, plan, masks.knowing(learned), RulesDigest.of(project, job, plan, learned, key));
  }

  /**
   * Asks a source whether it understands the conditions of masks.
   *
   * @throws Problem of type USAGE, with the place where it is written, if it does not
   */
  public void check(Reader source) {
    for (Pins.Resolved pins : plan.pins().lists()) {
      if (!pins.list().where().isEmpty()) {
        try {
          source.check(pins.table(), pins.list().where());
        } catch (Problem refused) {
          throw refused.atIfUnknown(pins.list().place().toString());
        }
      }
    }
    for (TablePlan table : plan.tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        for (String condition : column.masked() ? column.rule().conditions() : List.<String>of()) {
          try {
            source.check(table.table(), condition);
          } catch (Problem refused) {
            throw refused.atIfUnknown(column.rule().place().toString());
          }
        }
      }
    }
  }

  /** The same with columns that are masked in some rows alone, see {@link Plan#within}. */
  Planned within(Map<ColumnName, String> conditions) {
    return new Planned(request, plan.within(conditions), masks, rules);
  }

  /**
   * The same with what tokens are made under.
   *
   * @throws Problem of type USAGE if a column's kind has no mask that keeps all values different
   */
  Planned withTokens(Map<String, SecretKey> stores) {
    if (stores.isEmpty()) {
      return this;
    }
    Masks.Terms terms = masks.with(stores);
    for (TablePlan table : plan.tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.masked() && column.rule().token().isPresent()) {
          Mask mask = new Masks(terms).of(column.kind(), column.rule().notKeyed());
          if (!mask.keepsDifferent() || mask.mayMeet()) {
            throw column
                .rule()
                .place()
                .problem(
                    Failure.RULE_UNFIT,
                    table.table().name(column.column())
                        + ": two values could have one token, as the mask of "
                        + column.kindName()
                        + " is no permutation")
                .because("then nothing could lead back from it")
                .remedy("write what all values are like: token: { store: …, like: '\\d{16}' }");
          }
        }
      }
    }
    return new Planned(request, plan, terms, rules);
  }

  /** The same with agreed stand-ins, as their files have them now. */
  Planned with(Pins pins) {
    return new Planned(request, plan.with(pins, true), masks, rules);
  }

  /** The same with the values that masks draw from, read from the source. */
  public Planned withValues(Reader source) {
    return new Planned(request, plan.withValues(source), masks, rules);
  }
}
