package yemble.cli;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.crypto.Trace;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.Mask;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Own;
import yemble.core.own.OwnMask;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.demo.DemoProject;

/** The catalogue. */
@Command(
    name = "masks",
    description = "The catalogue of kinds and what their masks do, with samples.",
    subcommands = {MasksCommand.Try.class},
    footer = {
      "%nExamples:",
      "  yemble masks                              all kinds",
      "  yemble masks phone                        what a word finds, with samples",
      "  yemble masks try email ann@site.example   one value, step by step",
      "  yemble masks try phone -                  a value from standard input"
    })
final class MasksCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(
      arity = "0..1",
      paramLabel = "WORD",
      description = "a kind, a category, or a word to look for")
  String word = "";

  @Override
  public Integer call() {
    Kinds known = kinds(common);
    List<Kind> kinds =
        known.all().stream()
            .filter(
                k ->
                    (k.name() + " " + k.category() + " " + k.holds() + " " + k.becomes())
                        .toLowerCase(Locale.ROOT)
                        .contains(word.toLowerCase(Locale.ROOT)))
            .toList();
    List<OwnMasks.Found> own =
        own(common).all().values().stream()
            .filter(
                found ->
                    (found.mask().name() + " " + found.mask().says())
                        .toLowerCase(Locale.ROOT)
                        .contains(word.toLowerCase(Locale.ROOT)))
            .toList();
    if (kinds.isEmpty() && own.isEmpty()) {
      throw Problem.of(Failure.NOTHING_FOUND, "no kind is found by \"" + word + "\"")
          .remedy(Nearest.hint(word, known.names(), Kinds.SEE_ALL));
    }
    Masks masks = masks(common);
    if (common.json) {
      json(kinds, own, masks);
    } else if (word.isEmpty()) {
      list(kinds, own);
    } else {
      kinds.forEach(kind -> details(kind, masks));
      own.forEach(found -> details(found, masks));
    }
    common.output.flush();
    return 0;
  }

  private void list(List<Kind> kinds, List<OwnMasks.Found> own) {
    TextTable table = new TextTable("kind", "category", "becomes");
    kinds.forEach(k -> table.row(k.name(), k.category(), k.becomes()));
    common.output.table(table);
    common.output.line();
    if (!own.isEmpty()) {
      TextTable masks = new TextTable("own mask", "of", "becomes");
      own.forEach(
          found -> masks.row(found.mask().name(), found.jar(), Visible.of(found.mask().says())));
      common.output.table(masks);
      common.output.line();
    }
    common.output.line(
        "A column to be masked without a kind keeps its shape alone. Next: yemble masks KIND shows samples.");
  }

  private void details(Kind kind, Masks masks) {
    Output output = common.output;
    output.line(output.paint(Output.Tone.STRONG, kind.name()) + "  " + kind.category());
    output.line("  holds         " + kind.holds());
    output.line("  becomes       " + kind.becomes());
    output.line("  normal form   " + kind.alike());
    if (!kind.origin().isEmpty()) {
      output.line("  said in       " + kind.origin());
    }
    if (kind.mask().isEmpty()) {
      output.line();
      return;
    }
    output.line("  different     " + different(masks.of(kind.name())));
    TextTable table = new TextTable("sample", "becomes");
    for (String sample : kind.samples()) {
      String masked = masks.of(kind.name()).apply(sample);
      table.row(sample, masked == null ? "NULL" : masked);
    }
    output.table(table);
    output.line();
  }

  private void details(OwnMasks.Found found, Masks masks) {
    Output output = common.output;
    OwnMask own = found.mask();
    output.line(output.paint(Output.Tone.STRONG, own.name()) + "  a mask of one's own");
    output.line("  becomes       " + Visible.of(own.says()));
    output.line("  of            " + found.jar());
    output.line(
        "  options       "
            + (own.options().isEmpty() ? "none" : String.join(", ", new TreeSet<>(own.options()))));
    if (own.reversible()) {
      output.line("  way back      it says that it can be led back from");
    }
    Mask mask = mask(masks, found);
    TextTable table = new TextTable("sample", "becomes");
    own.samples().forEach(sample -> table.row(sample, mask.apply(sample)));
    output.table(table);
    output.line();
  }

  /** A mask of one's own without options, in a scope that is called after it. */
  private static Mask mask(Masks masks, OwnMasks.Found found) {
    MaskStep step = new Own(found.mask().name(), new TreeMap<>(), found.digest(), found.mask());
    return masks.of("", MaskRule.of(List.of(step), null));
  }

  private static OwnMasks own(CommonOptions common) {
    return Files.exists(common.directory().resolve(Project.FILE))
        ? ProjectFile.read(common.directory()).ownMasks()
        : OwnMasks.NONE;
  }

  private static String different(Mask mask) {
    if (!mask.keepsDifferent()) {
      return "values may fall together";
    }
    return mask.mayMeet()
        ? "values stay different, but for a chance that run looks at before it loads"
        : "values stay different";
  }

  private void json(List<Kind> kinds, List<OwnMasks.Found> own, Masks masks) {
    common.output.json(
        Json.object(
            "own",
            Json.list(
                own,
                found ->
                    Json.object(
                        "mask", found.mask().name(),
                        "jar", found.jar(),
                        "becomes", found.mask().says(),
                        "options", List.copyOf(new TreeSet<>(found.mask().options())),
                        "reversible", found.mask().reversible())),
            "kinds",
            Json.list(
                kinds,
                kind ->
                    Json.object(
                        "kind",
                        kind.name(),
                        "category",
                        kind.category().toString(),
                        "holds",
                        kind.holds(),
                        "becomes",
                        Json.text(kind.becomes()),
                        "normal_form",
                        Json.text(kind.alike()),
                        "said_in",
                        Json.text(kind.origin()),
                        "samples",
                        Json.list(
                            kind.samples(),
                            sample ->
                                Json.object(
                                    "value",
                                    sample,
                                    "becomes",
                                    masks.of(kind.name()).apply(sample)))))));
  }

  private static Kinds kinds(CommonOptions common) {
    return Files.exists(common.directory().resolve(Project.FILE))
        ? ProjectFile.read(common.directory()).conventions().kinds()
        : Kinds.BUILT_IN;
  }

  /** Masks under the project's key, or, outside a project, under the demo's. */
  private static Masks masks(CommonOptions common) {
    return new Masks(terms(common));
  }

  private static Masks.Terms terms(CommonOptions common) {
    boolean project = Files.exists(common.directory().resolve(Project.FILE));
    SecretKey key =
        project ? KeyFile.read(common.directory(), common.environment()) : DemoProject.key();
    Conventions conventions =
        project ? ProjectFile.read(common.directory()).conventions() : Conventions.NONE;
    return new Masks.Terms(
        key,
        SecretKey.random(),
        project ? ProjectFile.read(common.directory()).asOf() : Project.DEFAULT_AS_OF,
        conventions.kinds(),
        conventions.masks(),
        conventions.countries());
  }

  /** Writes down what the functions of a scope are asked, and what they answer. */
  private record Steps(String scope, List<String[]> steps) implements Trace {
    @Override
    public void asked(byte[] message, byte[] answer) {
      head();
      steps.add(new String[] {"  asked", '"' + new String(message, StandardCharsets.UTF_8) + '"'});
      steps.add(new String[] {"  answers", HexFormat.of().formatHex(answer)});
    }

    @Override
    public void moved(String tweak, long size, long from, long to) {
      head();
      steps.add(
          new String[] {
            "  permuted",
            String.format(
                Locale.ROOT,
                "%,d to %,d of %,d (%s, tweak \"%s\")",
                from,
                to,
                size,
                size < 1_000_000 ? "table" : "FF1",
                tweak)
          });
    }

    /** Says once which function is asked next. */
    private void head() {
      String name = scope.equals(Kinds.SHAPE) ? "shape" : scope;
      for (int i = steps.size() - 1; i >= 0; i--) {
        if (steps.get(i)[0].equals("scope")) {
          if (steps.get(i)[1].startsWith(name + ",")) {
            return;
          }
          break;
        }
      }
      steps.add(new String[] {"scope", name + ", a function of its own under the key"});
    }
  }

  /** One value, step by step. */
  @Command(
      name = "try",
      description = {
        "Mask one value and say how: under the project's key, or, outside a project, the demo's."
      },
      footer = {
        "%nExamples:",
        "  yemble masks try full-name 'Vennask, Mirel'",
        "  yemble masks try phone -        the value from standard input, kept out of the process list"
      })
  static final class Try implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "KIND", description = "the kind; shape for none")
    String kind;

    @Parameters(index = "1", paramLabel = "VALUE", description = "the value; - for standard input")
    String value;

    @Override
    public Integer call() {
      String name = kind.equals(Kinds.SHAPE) ? "" : kind;
      Kinds kinds = kinds(common);
      boolean ofKind = !name.isEmpty() && !own(common).all().containsKey(name);
      if (ofKind && kinds.known(name).mask().isEmpty()) {
        throw Problem.of(Failure.KIND_INCOMPLETE, "the kind \"" + name + "\" has no mask yet")
            .at(kinds.known(name).origin())
            .remedy("give it one in " + Project.FILE + ": masks: { " + name + ": { as: shape } }");
      }
      String text = StandardInput.or(value);
      OwnMasks.Found own = own(common).all().get(name);
      List<String[]> asked = new ArrayList<>();
      Masks.Terms terms = terms(common);
      Masks masks = new Masks(terms, scope -> new Steps(scope, asked));
      Mask mask = own == null ? masks.of(name) : mask(masks, own);
      String masked = text.isEmpty() ? text : mask.apply(text);
      List<String[]> steps = new ArrayList<>();
      steps.add(new String[] {"value", text});
      kinds
          .of(name)
          .ifPresent(
              k -> {
                steps.add(new String[] {"kind", k.name() + ": " + k.holds()});
                steps.add(new String[] {"rule", k.becomes()});
              });
      if (own != null) {
        steps.add(new String[] {"own mask", own.mask().says() + ", of " + own.jar()});
      }
      steps.add(
          new String[] {"normal form", kinds.of(name).map(Kind::alike).orElse("the text itself")});
      steps.addAll(asked);
      if (asked.isEmpty()) {
        steps.add(new String[] {"key", "is not needed: nothing of it is drawn"});
      }
      steps.add(new String[] {"becomes", masked == null ? "NULL" : masked});
      if (common.json) {
        common.output.json(
            Json.object(
                "kind",
                name,
                "value",
                text,
                "becomes",
                masked,
                "steps",
                Json.list(
                    steps,
                    step ->
                        Json.object("step", step[0].strip().replace(' ', '_'), "is", step[1]))));
      } else {
        TextTable table = new TextTable("", "");
        steps.forEach(step -> table.row(step[0], step[1]));
        common.output.table(table);
        common.output.flush();
      }
      return 0;
    }
  }
}
