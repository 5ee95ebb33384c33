package yemble.cli;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.crypto.Trace;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.LearnedNames;
import yemble.core.mask.Mask;
import yemble.core.mask.MaskRule;
import yemble.core.mask.MaskRuleReader;
import yemble.core.mask.Masks;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Own;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.own.OwnMask;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.KeyFile;
import yemble.core.project.LearnedFile;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.core.yaml.YamlValue;
import yemble.demo.DemoProject;

/** The catalogue. */
@Command(
    name = "masks",
    description = "The catalogue of kinds and rules and what their masks do, with samples.",
    subcommands = {MasksCommand.Try.class},
    footer = {
      "%nExamples:",
      "  yemble masks                              all kinds, and all rules",
      "  yemble masks phone                        what a word finds, with samples",
      "  yemble masks 'credit card'                the words that people use will do",
      "  yemble masks try email ann@site.example   one value, step by step",
      "  yemble masks try phone -                  a value from standard input"
    })
final class MasksCommand implements Callable<Integer> {
  /** What rules are shown at, where they are for values of a sort. */
  private static final Map<String, List<String>> SAMPLES =
      Map.of(
          "noise", List.of("52000", "3410.50", "7"),
          "range", List.of("52000", "7"),
          "shift", List.of("2024-03-10", "2024-03-31 10:15:00"),
          "hidden", List.of("4000 0012 3456 7899"),
          "pattern", List.of("B-117"),
          "password", List.of("0cc175b9c0f1b6a831c399e269772661"),
          "email-at", List.of("orla.tidewick@site.example"),
          "filler", List.of("Mrs Tidewick rang about her luggage."),
          "replace", List.of("the harbour office"));

  @Mixin CommonOptions common;

  @Parameters(
      arity = "0..1",
      paramLabel = "WORD",
      description = "a kind, a rule, a category, or a word to look for")
  String word = "";

  @Override
  public Integer call() {
    Kinds known = kinds(common);
    Set<String> called = Kinds.called(word.toLowerCase(Locale.ROOT));
    List<Kind> kinds =
        known.all().stream()
            .filter(k -> isMeant(k, word.toLowerCase(Locale.ROOT), called))
            .toList();
    List<StepSort> rules = Steps.meant(word);
    List<OwnMasks.Found> own =
        own(common).all().values().stream()
            .filter(
                found ->
                    (found.mask().name() + " " + found.mask().says())
                        .toLowerCase(Locale.ROOT)
                        .contains(word.toLowerCase(Locale.ROOT)))
            .toList();
    if (kinds.isEmpty() && own.isEmpty() && rules.isEmpty()) {
      throw Problem.of(Failure.NOTHING_FOUND, "no kind and no rule is found by \"" + word + "\"")
          .remedy(Nearest.hint(word, known.names(), Kinds.SEE_ALL));
    }
    Masks masks = masks(common);
    if (common.json) {
      json(kinds, own, rules, masks);
    } else if (word.isEmpty()) {
      list(kinds, own, rules);
    } else {
      kinds.forEach(kind -> details(kind, masks));
      rules.forEach(rule -> details(rule, masks));
      own.forEach(found -> details(found, masks));
    }
    common.output.flush();
    return 0;
  }

  private static boolean isMeant(Kind kind, String word, Set<String> called) {
    return (kind.name() + " " + kind.category() + " " + kind.holds() + " " + kind.becomes())
            .toLowerCase(Locale.ROOT)
            .contains(word)
        || called.contains(kind.name());
  }

  private void list(List<Kind> kinds, List<OwnMasks.Found> own, List<StepSort> rules) {
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
    TextTable steps = new TextTable("rule", "a value becomes");
    rules.forEach(rule -> steps.row(rule.word(), plain(rule.says())));
    common.output.table(steps);
    common.output.line();
    common.output.line(
        "A column to be masked without a kind keeps its shape alone. Next: yemble masks WORD shows samples.");
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

  /** Without the signs of the reference's page. */
  private static String plain(String text) {
    return text.replace("`", "").replaceAll("\\[([^]]*)]\\([^)]*\\)", "$1");
  }

  private void details(StepSort rule, Masks masks) {
    Output output = common.output;
    output.line(
        output.paint(Output.Tone.STRONG, rule.word()) + "  a rule, for " + rule.takes().words());
    output.line("  written       " + plain(rule.form()));
    output.line("  becomes       " + plain(rule.says()));
    TextTable table = new TextTable("rule", "sample", "becomes");
    for (String sample : rule.samples()) {
      String written = "{ " + rule.word() + ": " + sample + " }";
      for (String value : SAMPLES.getOrDefault(rule.word(), List.of("Orla Tidewick", "1500"))) {
        shown(written, value, masks).ifPresent(masked -> table.row(written, value, masked));
      }
    }
    if (!table.isEmpty()) {
      output.table(table);
    }
    output.line();
  }

  /** What a rule makes of a sample; empty where it needs a file, a store or a row. */
  private Optional<String> shown(String written, String value, Masks masks) {
    try {
      MaskRule rule = rule(written, common);
      if (rule.readsRow() || rule.drawsFromColumn() || rule.token().isPresent()) {
        return Optional.empty();
      }
      String masked = masks.of("", rule).apply(value);
      return Optional.of(masked == null ? "NULL" : masked);
    } catch (Problem ofItsFile) {
      return Optional.empty();
    }
  }

  /** A rule as it is written in a project file. */
  private static MaskRule rule(String written, CommonOptions common) {
    return new MaskRuleReader(common.directory(), kinds(common), own(common))
        .read(YamlValue.parse(written, "--rule"));
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

  private void json(List<Kind> kinds, List<OwnMasks.Found> own, List<StepSort> rules, Masks masks) {
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
            "rules",
            Json.list(
                rules,
                rule ->
                    Json.object(
                        "rule", rule.word(),
                        "written", plain(rule.form()),
                        "becomes", plain(rule.says()))),
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
            conventions.countries())
        .knowing(
            project
                ? LearnedFile.readIfWanted(ProjectFile.read(common.directory()))
                : LearnedNames.NONE);
  }

  /** Writes down what the functions of a scope are asked, and what they answer. */
  private record Asked(String scope, List<String[]> steps) implements Trace {
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
        "  yemble masks try --rule '{ noise: 5% }' 100",
        "  yemble masks try phone --rule '{ hidden: { keep-last: 3 } }' '+44 7700 900123'",
        "  yemble masks try phone -        the value from standard input, kept out of the process list"
      })
  static final class Try implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(
        arity = "1..2",
        paramLabel = "KIND VALUE",
        hideParamSyntax = true,
        description =
            "the kind, shape for none, and the value, - for standard input; with --rule the kind may be left out")
    List<String> words;

    @Option(
        names = "--rule",
        paramLabel = "RULE",
        description = "a rule as a project file has it, in the place of the kind's mask")
    String rule = "";

    @Override
    public Integer call() {
      if (words.size() == 1 && rule.isEmpty()) {
        throw Problem.of(Failure.OPTION, "there is no value to try the kind at")
            .remedy("yemble masks try " + words.get(0) + " VALUE");
      }
      String kind = words.size() == 1 ? Kinds.SHAPE : words.get(0);
      String value = words.get(words.size() - 1);
      String name = kind.equals(Kinds.SHAPE) ? "" : kind;
      MaskRule written = rule.isEmpty() ? MaskRule.NONE : rule(rule, common);
      if (written.readsRow() || written.drawsFromColumn() || written.token().isPresent()) {
        throw Problem.of(Failure.MASK_NEEDS_COLUMN, "the rule depends on more than the value")
            .at("--rule")
            .because("it reads a row, a column or a token store, and there is none here")
            .remedy("write it under columns: and look with yemble preview");
      }
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
      Masks masks = new Masks(terms, scope -> new Asked(scope, asked));
      Mask mask =
          own != null
              ? mask(masks, own)
              : written.isNone() ? masks.of(name) : masks.of(name, written);
      String masked = text.isEmpty() ? text : mask.apply(text);
      List<String[]> steps = new ArrayList<>();
      steps.add(new String[] {"value", text});
      kinds
          .of(name)
          .ifPresent(
              k -> {
                steps.add(new String[] {"kind", k.name() + ": " + k.holds()});
                if (written.isNone()) {
                  steps.add(new String[] {"rule", k.becomes()});
                }
              });
      if (!written.isNone()) {
        steps.add(new String[] {"rule", written.words(kind)});
      }
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
