package yemble.core.job;

import java.nio.file.Path;
import java.util.Map;
import java.util.function.Function;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.store.Engine;
import yemble.core.store.Reader;

/**
 * A job whose source is open.
 *
 * @param from the source as the project has it
 * @param key the project's
 * @param engine the source's
 * @param witness what the source was before it was opened; null if nobody asked for it
 */
public record Opened(
    Project project,
    Job job,
    Database from,
    SecretKey key,
    Engine engine,
    Engine.Witness witness,
    Reader source)
    implements AutoCloseable {

  /**
   * Opens the source of a job.
   *
   * @param witnessed whether it is to be remembered as it was before
   * @param engines finds the engine of an address
   */
  public static Opened of(
      Project project,
      Job job,
      boolean witnessed,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    SecretKey key = KeyFile.read(project.directory(), environment);
    Database from = project.database(job.from(), job.fromAt());
    Engine.Address address = address(project.directory(), from, environment);
    Engine engine = engines.apply(address);
    Engine.Witness witness = witnessed ? engine.witness(address) : null;
    return new Opened(project, job, from, key, engine, witness, engine.open(address));
  }

  /** The same; null if its url refers to what is not there. */
  static Engine.Address addressIfKnown(
      Path directory, Database database, Map<String, String> environment) {
    try {
      return new Engine.Address(
          database.title(), database.url().value(directory, environment), directory, "", "");
    } catch (Problem unknown) {
      return null;
    }
  }

  /** Where a database of the project is. */
  public static Engine.Address address(
      Path directory, Database database, Map<String, String> environment) {
    return new Engine.Address(
        database.title(),
        database.url().value(directory, environment),
        directory,
        database.user().value(directory, environment),
        database.password().value(directory, environment),
        database.driver(),
        database.functions());
  }

  @Override
  public void close() {
    source.close();
  }
}
