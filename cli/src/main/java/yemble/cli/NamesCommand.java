package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.job.NamesLearning;
import yemble.core.job.Preparation;
import yemble.core.mask.LearnedNames;
import yemble.core.project.LearnedFile;
import yemble.core.project.Project;
import yemble.jdbc.Engines;

/** The names that a project has learned. */
@Command(
    name = "names",
    description = {
      "Show what the project has learned of the names in its source.",
      "With names: learned in yemble.yaml, addresses and logins made of names that no vocabulary",
      "knows become what these names become, by their value alone. The file holds fingerprints."
    },
    subcommands = NamesCommand.Learn.class,
    footer = {
      "%nExamples:",
      "  yemble names",
      "  yemble names learn            what would be learned, and how many values it changes",
      "  yemble names learn --yes      write it into learned-names.txt"
    })
final class NamesCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Override
  public Integer call() {
    Project project = common.read();
    LearnedNames learned = LearnedFile.readIfThere(project.directory());
    if (common.json) {
      common.output.json(
          Json.object(
              "file", LearnedFile.FILE,
              "used", project.learnsNames(),
              "generations", generations(learned)));
      return 0;
    }
    Output output = common.output;
    if (learned.isEmpty()) {
      output.line("The project has learned no names. Next: yemble names learn");
    } else {
      TextTable table = new TextTable(">generation", "learned", ">given names", ">family names");
      for (int i = 0; i < learned.generations().size(); i++) {
        LearnedNames.Generation one = learned.generations().get(i);
        table.row(
            Output.number(i + 1),
            one.day(),
            Output.number(one.given().length),
            Output.number(one.family().length));
      }
      output.table(table);
      output.line();
      output.line(
          "Fingerprints under the project's key, in " + LearnedFile.FILE + "; it holds no name.");
    }
    wanted(output, project);
    output.flush();
    return 0;
  }

  private static void wanted(Output output, Project project) {
    if (!project.learnsNames()) {
      output.line(
          output.paint(Output.Tone.WARNING, "Not used: ")
              + "write names: learned into "
              + Project.FILE
              + ".");
    }
  }

  private static List<Object> generations(LearnedNames learned) {
    List<Object> list = new ArrayList<>();
    for (LearnedNames.Generation one : learned.generations()) {
      list.add(
          Json.object(
              "learned", one.day(), "given", one.given().length, "family", one.family().length));
    }
    return list;
  }

  /** Learns the names of the source. */
  @Command(
      name = "learn",
      description = {
        "Read the masked columns of names of a source, and add what no vocabulary knows.",
        "Says how many addresses and logins become others by it; writes with --yes alone."
      })
  static final class Learn implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Option(
        names = "--job",
        paramLabel = "JOB",
        description = "the job, if not all read from one database")
    String job = "";

    @Option(
        names = {"-y", "--yes"},
        description = "write it")
    boolean yes;

    @Override
    public Integer call() {
      Project project = common.read();
      LearnedNames before = LearnedFile.readIfThere(project.directory());
      try (Preparation preparation =
          Preparation.of(
              project,
              project.anyJob(job),
              Preparation.Purpose.PINS,
              common.environment(),
              Engines::of,
              ProgressView.of(common.output))) {
        NamesLearning learning = NamesLearning.of(preparation, before);
        boolean isNew = !learning.learned().equals(before);
        if (yes && isNew) {
          LearnedFile.write(project.directory(), learning.learned());
        }
        if (common.json) {
          common.output.json(
              Json.object(
                  "source",
                  Json.database(preparation.from()),
                  "columns",
                  learning.columns(),
                  "given",
                  learning.given(),
                  "family",
                  learning.family(),
                  "looked_at",
                  learning.looked(),
                  "differing",
                  Json.list(
                      learning.differing().entrySet(),
                      one -> Json.object("column", one.getKey(), "values", one.getValue())),
                  "written",
                  yes && isNew));
        } else {
          print(project, preparation, learning, isNew);
        }
      }
      return 0;
    }

    private void print(
        Project project, Preparation preparation, NamesLearning learning, boolean isNew) {
      Output output = common.output;
      Headings.from(output, preparation);
      output.line();
      if (learning.columns().isEmpty()) {
        output.line("No masked column holds names: decide first, with yemble register.");
        output.flush();
        return;
      }
      output.line(
          "Read "
              + String.join(", ", learning.columns())
              + ": "
              + Output.counted(learning.given(), "given name")
              + " and "
              + Output.counted(learning.family(), "family name")
              + " that nothing here knows yet.");
      if (isNew) {
        long others = learning.differing().values().stream().mapToLong(Long::longValue).sum();
        output.line(
            Output.number(others)
                + " of "
                + Output.number(learning.looked())
                + " addresses and logins become others than before"
                + (others == 0 ? "." : ":"));
        learning
            .differing()
            .forEach(
                (column, values) -> {
                  if (values > 0) {
                    output.line("  " + column + "  " + Output.number(values));
                  }
                });
        output.line();
        output.line(
            yes
                ? "Written into " + LearnedFile.FILE + ": put it under version control."
                : "Nothing was written: yemble names learn --yes writes it into "
                    + LearnedFile.FILE
                    + ".");
      }
      wanted(output, project);
      output.flush();
    }
  }
}
