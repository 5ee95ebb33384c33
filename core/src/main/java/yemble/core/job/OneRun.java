package yemble.core.job;

import java.io.IOException;
import java.nio.file.Path;
import yemble.core.file.HeldFile;
import yemble.core.file.WrittenFile;
import yemble.core.moment.Now;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;

/** That one run of a project is at work at a time. */
public final class OneRun {
  private static final String FILE = "run.lock";

  private OneRun() {}

  /**
   * Begins one.
   *
   * @param what it does, for others that come
   * @return what holds it until it is closed; null where the project's folder cannot be written
   * @throws Problem of type REFUSED if another one is at work, with who runs it and since when
   */
  public static HeldFile of(Project project, String what) {
    Path state = project.directory().resolve(Project.STATE);
    Path file = state.resolve(FILE);
    try {
      WrittenFile.folder(state);
      HeldFile.Tried tried =
          HeldFile.hold(
              file,
              System.getProperty("user.name")
                  + " "
                  + what
                  + " since "
                  + Now.second()
                  + ", process "
                  + ProcessHandle.current().pid());
      if (tried.held() == null) {
        throw Problem.of(Failure.ANOTHER_RUN, "another run of this project is at work")
            .at(file.toString())
            .because(tried.holder().isEmpty() ? "it does not say whose" : tried.holder());
      }
      return tried.held();
    } catch (IOException e) {
      return null; // A folder that nobody may write to; the target's own lock remains.
    }
  }
}
