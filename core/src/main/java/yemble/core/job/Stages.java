package yemble.core.job;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import yemble.core.crossing.CrossedLoad;
import yemble.core.crossing.CrossedReader;
import yemble.core.crossing.CrossedSink;
import yemble.core.crossing.Crossing;
import yemble.core.mark.Comparison;
import yemble.core.name.ColumnName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.Unfit;
import yemble.core.schema.Column;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Sink;
import yemble.core.wording.Sentence;

/**
 * What rows go through after the masks, on their way into a target: the load, the proof and whoever
 * reads the target back share it. Keys that are given anew come later, see {@link Merging}.
 *
 * @param crossing empty if source and target are of one engine
 */
public record Stages(Optional<Crossing> crossing) {
  /** Rows arrive as the masks leave them. */
  public static final Stages NONE = new Stages(Optional.empty());

  /**
   * The stages from a source into a database of an engine.
   *
   * @param of the source's engine
   * @param job whose rules settle values that do not fit
   * @throws Problem of type USAGE if a rule names no column, or cannot hold for it
   */
  public static Stages of(RowSource source, Engine.Family of, Job job, Engine into) {
    if (of.equals(into.family()) && into.family().statements()) {
      return NONE;
    }
    Lookup lookup = new Lookup(source.schema());
    Map<ColumnName, Unfit> rules = new HashMap<>();
    job.unfit()
        .forEach(
            (named, rule) ->
                rules.put(lookup.column(named.name(), named.place().toString()), rule));
    Crossing crossing = Crossing.of(source.outlineByValues(), into, rules);
    job.unfit()
        .forEach(
            (named, rule) -> {
              ColumnName name = lookup.column(named.name(), named.place().toString());
              check(named, rule, name, source.schema().table(name.table()), crossing);
            });
    return new Stages(Optional.of(crossing));
  }

  private static void check(
      Job.Named named, Unfit rule, ColumnName name, Table table, Crossing crossing) {
    Column column = table.column(name.column()).orElseThrow();
    if (rule.rule() == Unfit.Rule.CLEAR
        && !column.generated()
        && (!column.nullable() || crossing.mustHold(table, column))) {
      throw named
          .place()
          .problem(Failure.RULE_UNFIT, name + " cannot become NULL")
          .because("the column must hold a value in every row")
          .remedy("write another value: " + name + ": { value: … }");
    }
    Sentence misfit =
        rule.rule() == Unfit.Rule.REPLACE ? crossing.misfit(name, rule.value()) : Sentence.NONE;
    if (!misfit.isEmpty()) {
      throw named
          .place()
          .problem(Failure.RULE_UNFIT, "the value for " + name + " does not fit it either")
          .because(misfit.toString())
          .remedy("write one that the target's column can hold");
    }
  }

  /** What is made in the target; among its objects, what could not be carried. */
  public Schema schema(Schema source) {
    return crossing.map(Crossing::schema).orElse(source);
  }

  /** A load that takes rows as the masks leave them. */
  Load into(Load load) {
    return crossing.isPresent() ? new CrossedLoad(load, crossing.get()) : load;
  }

  /** A sink that takes rows as the masks leave them. */
  Sink into(Sink sink) {
    return crossing.isPresent() ? new CrossedSink(sink, crossing.get()) : sink;
  }

  /** What was loaded, under the names that the source has for it. */
  Reader back(Reader target) {
    return crossing.isPresent() ? new CrossedReader(target, crossing.get()) : target;
  }

  /** The form in which rows of the source and of the target are compared. */
  Comparison comparison(Reader target) {
    return comparison(target.comparison());
  }

  /** The same, given how rows of one engine are compared. */
  Comparison comparison(Comparison own) {
    return crossing.<Comparison>map(way -> way).orElse(own);
  }
}
