package yemble.core.job;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.moment.Now;
import yemble.core.name.ColumnName;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Loading;
import yemble.core.project.Project;
import yemble.core.project.Step;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Passage;
import yemble.core.subset.Request;
import yemble.core.subset.Requests;
import yemble.core.yaml.Place;

/** A parcel as what a job needs: where its rows are from, which job they are of, and its rows. */
record Unpacked(ParcelReader parcel, Project project) {
  private static final Place PLACE = Place.of("the parcel");

  /** The database that it was packed from. */
  Database from() {
    return Database.remembered(parcel.manifest().title(), PLACE);
  }

  /** What it remembers of how it was packed. */
  Loaded packed() {
    return parcel.manifest().load();
  }

  /** The project's job of the parcel's name; one that asks for nothing if there is none. */
  Job job() {
    Manifest manifest = parcel.manifest();
    return project
        .jobs()
        .getOrDefault(
            packed().job(),
            new Job(
                packed().job(),
                manifest.source(),
                PLACE,
                "",
                PLACE,
                Loading.of(Loading.Way.EMPTY, PLACE),
                List.of(),
                Optional.empty(),
                List.of(),
                List.of(),
                List.of(),
                Map.of(),
                Step.Steps.NONE,
                PLACE));
  }

  /** The same with those steps alone that act on the target: the source is not there. */
  Job loaded() {
    Step.Steps all = job().steps();
    return job()
        .stepping(
            new Step.Steps(
                all.before().stream().filter(step -> !step.onSource()).toList(),
                all.after().stream().filter(step -> !step.onSource()).toList()));
  }

  /** The columns that are masked in it. */
  Set<ColumnName> masked() {
    Set<ColumnName> masked = new HashSet<>();
    for (Table table : parcel.schema().tables()) {
      for (Column column : table.columns()) {
        if (parcel.manifest().masked().containsKey(table.name(column).toString())) {
          masked.add(table.name(column));
        }
      }
    }
    return masked;
  }

  /** What its job asks for: which links there are, first of all. */
  Request request() {
    return Requests.of(project, job(), parcel.schema());
  }

  /** What its rows go through into a database of an engine. */
  Stages stages(Engine into) {
    return Stages.of(parcel, parcel.manifest().family(), job(), into);
  }

  /** All of its rows, as they are. */
  List<Pipe.Flow> flows() {
    return parcel.schema().tables().stream()
        .map(
            table ->
                new Pipe.Flow(table, parcel.all(table), thread -> Passage.unchanged(parcel, table)))
        .toList();
  }

  /**
   * What a mark remembers of its load.
   *
   * @param rows that were loaded
   * @param made what was made, in the engine's own spelling
   */
  Loaded loaded(String tool, String user, long rows, List<String> made, List<LoadedTable> tables) {
    return new Loaded(
        tool,
        Now.second(),
        user,
        packed().job(),
        from().title(),
        packed().key(),
        packed().rules(),
        rows,
        made,
        packed().digestKey(),
        tables,
        parcel.name(),
        "",
        "");
  }
}
