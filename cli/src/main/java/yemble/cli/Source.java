package yemble.cli;

import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.Set;
import yemble.core.job.Opened;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaFile;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** The database of a project that a command reads. */
final class Source {
  private Source() {}

  /** The database of a name, or the one that the project's jobs read from. */
  static Database of(Project project, String name) {
    if (!name.isEmpty()) {
      return project.database(name, new Place(Project.FILE, 1, 1));
    }
    Set<String> sources = new LinkedHashSet<>();
    for (Job job : project.jobs().values()) {
      sources.add(job.from());
    }
    if (sources.size() != 1) {
      throw Problem.of(
              Failure.CHOICE_MISSING,
              "which database? The project's jobs read from several, or none")
          .at(Project.FILE)
          .remedy(
              "name it with --from, one of: " + String.join(", ", project.databases().keySet()));
    }
    return project.databases().get(sources.iterator().next());
  }

  static Reader open(CommonOptions common, Project project, Database database) {
    Engine.Address address = Opened.address(project.directory(), database, common.environment());
    return Engines.of(address).open(address);
  }

  private static Path stored(Project project, Database database) {
    return project
        .directory()
        .resolve(Project.STATE)
        .resolve("schema-" + database.name() + ".json");
  }

  /** Keeps what was read of the schema for commands that do not connect. */
  static void keep(Project project, Database database, Schema schema) {
    try {
      SchemaFile.write(stored(project, database), schema);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the project's state cannot be written")
          .at(Project.STATE)
          .causedBy(e);
    }
  }

  /** The schema as it was last read, or, if it was not, as it is now. */
  static Schema schema(CommonOptions common, Project project, Database database) {
    return SchemaFile.read(stored(project, database))
        .orElseGet(
            () -> {
              try (Reader reader = open(common, project, database)) {
                keep(project, database, reader.schema());
                return reader.schema();
              }
            });
  }
}
