package yemble.core.project;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.Place;

/**
 * The project file, read and checked as far as it can be without asking a database.
 *
 * @param directory the project's folder
 * @param asOf the day that ages are counted at
 * @param accepted columns in which a person accepts that originals are found
 * @param conventions its kinds, masks and rules for survey, those of its baselines included
 * @param uses its baselines, as written
 * @param pins its lists of agreed stand-ins, by their names
 * @param stores its token stores, by their names
 * @param ownMasks the masks of one's own that it names
 * @param learnsNames whether names learned from the source tell what addresses are made of
 */
public record Project(
    Path directory,
    LocalDate asOf,
    Map<String, Database> databases,
    List<LinkRule> links,
    Map<String, Job> jobs,
    List<Job.Named> accepted,
    Conventions conventions,
    List<String> uses,
    Parcels parcels,
    Map<String, PinList> pins,
    Map<String, StoreSettings> stores,
    OwnMasks ownMasks,
    boolean learnsNames) {
  public static final String FILE = "yemble.yaml";
  public static final String KEY_FILE = "yemble.key";
  public static final String PARCEL_KEY_FILE = "parcel.key";
  public static final String UNDO_KEY_FILE = "undo.key";
  public static final String STORE_KEY_FILE = "store.key";
  public static final String STATE = ".yemble";

  /** What version control must not see: the key, the state, and files that hold originals. */
  public static final List<String> IGNORED =
      List.of(
          KEY_FILE,
          PARCEL_KEY_FILE,
          UNDO_KEY_FILE,
          STATE + "/",
          "*.with-originals.csv",
          "*.key",
          "*.tokens",
          ".*.lock");

  public static final LocalDate DEFAULT_AS_OF = LocalDate.of(2026, 1, 1);

  public Project {
    links = List.copyOf(links);
    uses = List.copyOf(uses);
  }

  /** The job of a name; the only one if the name is empty. */
  public Job job(String name) {
    if (name.isEmpty()) {
      if (jobs.size() == 1) {
        return jobs.values().iterator().next();
      }
      throw Problem.of(
              Failure.CHOICE_MISSING,
              jobs.isEmpty() ? "the project has no job" : "which job? The project has several")
          .at(FILE)
          .remedy(
              jobs.isEmpty()
                  ? "add one under \"jobs:\""
                  : "name one of: " + String.join(", ", jobs.keySet()));
    }
    Job job = jobs.get(name);
    if (job == null) {
      throw Problem.of(Failure.JOB_UNKNOWN, "there is no job \"" + name + "\"")
          .at(FILE)
          .remedy(Nearest.hint(name, jobs.keySet()));
    }
    return job;
  }

  /**
   * The job of a name; without one any job, if all of them mask alike: they read from one database,
   * and neither links nor rules for what does not fit are any job's own.
   */
  public Job anyJob(String name) {
    boolean alike =
        jobs.values().stream()
                .map(job -> List.of(job.from(), job.links(), job.unfit()))
                .distinct()
                .count()
            == 1;
    return name.isEmpty() && alike ? jobs.values().iterator().next() : job(name);
  }

  /** A token store by its name. */
  public StoreSettings store(String name) {
    StoreSettings store = stores.get(name);
    if (store == null) {
      throw Problem.of(
              Failure.STORE_UNKNOWN,
              stores.isEmpty()
                  ? "the project has no token stores"
                  : "there is no token store \"" + name + "\"")
          .at(FILE)
          .remedy(
              stores.isEmpty()
                  ? "add one under stores:, see the guide"
                  : Nearest.hint(name, stores.keySet()));
    }
    return store;
  }

  /** A database by its name; {@code place} is where it is spoken of. */
  public Database database(String name, Place place) {
    Database database = databases.get(name);
    if (database == null) {
      throw place
          .problem(Failure.DATABASE_UNKNOWN, "there is no database \"" + name + "\"")
          .remedy(Nearest.hint(name, databases.keySet()));
    }
    return database;
  }
}
