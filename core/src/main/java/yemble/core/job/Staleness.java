package yemble.core.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.crypto.SecretKey;
import yemble.core.moment.Now;
import yemble.core.parcel.Manifest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.schema.Schema;
import yemble.core.wording.Sentence;

/** Whether a parcel is still what its job would pack now, as far as that can be told. */
public final class Staleness {
  private Staleness() {}

  /**
   * Why a parcel is not what people may expect; empty if nothing speaks against it.
   *
   * @param schema of the parcel
   */
  public static List<Sentence> of(
      Project project, Manifest manifest, Schema schema, Map<String, String> environment) {
    List<Sentence> reasons = new ArrayList<>();
    Duration age = Duration.between(manifest.load().at(), Now.moment());
    if (age.compareTo(project.parcels().maxAge()) > 0) {
      reasons.add(
          age.toDays() > 1
              ? JobWording.DAYS_OLD.of(age.toDays(), words(project.parcels().maxAge()))
              : JobWording.HOURS_OLD.of(age.toHours(), words(project.parcels().maxAge())));
    }
    if (changed(project, manifest, schema, environment).orElse(false)) {
      reasons.add(JobWording.RULES_CHANGED.of());
    }
    return reasons;
  }

  private static String words(Duration age) {
    return age.toHours() % 24 == 0 ? age.toDays() + "d" : age.toMinutes() + "m";
  }

  /**
   * Whether project, register and key ask for something else now; empty where that cannot be told:
   * without the key or the register, as where parcels are only loaded.
   */
  public static Optional<Boolean> changed(
      Project project, Manifest manifest, Schema schema, Map<String, String> environment) {
    Job job = project.jobs().get(manifest.load().job());
    if (job == null) {
      return Optional.empty();
    }
    SecretKey key;
    Register register;
    try {
      key = KeyFile.read(project.directory(), environment);
      Database from = project.database(job.from(), job.fromAt());
      register = Register.read(project.directory().resolve(from.register()), from.register());
    } catch (Problem missing) {
      return Optional.empty();
    }
    try {
      Planned now = Planned.of(schema, project, job, register, key, true);
      return Optional.of(!now.rules().equals(manifest.load().rules()));
    } catch (Problem unfit) {
      return Optional.of(true);
    }
  }
}
