package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Option;
import yemble.core.project.Job;
import yemble.core.project.Pick;
import yemble.core.yaml.Place;

/** Picks said with a command, in place of the job's own. */
final class PickOption {
  @Option(
      names = "--pick",
      paramLabel = "\"TABLE: CONDITION\"",
      description =
          "pick these rows, not the job's own; several times for more; - for standard input")
  List<String> picks = new ArrayList<>();

  /** The job with these picks, if there are any. */
  Job of(Job job) {
    if (picks.isEmpty()) {
      return job;
    }
    List<Pick> said = new ArrayList<>();
    for (String pick : picks) {
      StandardInput.or(pick)
          .lines()
          .filter(line -> !line.isBlank())
          .forEach(
              line -> said.add(Pick.said(line, Place.of("--pick number " + (said.size() + 1)))));
    }
    if (said.isEmpty()) {
      said.add(Pick.said("", Place.of("--pick number 1")));
    }
    return job.picking(said);
  }
}
