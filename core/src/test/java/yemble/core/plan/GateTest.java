package yemble.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.Fixed;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.LinkRule;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;

/** The gate lets nothing through that nobody has decided on; the plan nothing that contradicts. */
class GateTest {
  private static final TableName PERSON = TableName.of("person");
  private static final TableName LETTER = TableName.of("letter");
  private static final Schema SCHEMA =
      new Schema(
          List.of(
              new Table(
                  PERSON,
                  List.of(column("id", "INTEGER"), column("name", "TEXT"), column("data", "TEXT")),
                  List.of("id"),
                  List.of(),
                  ""),
              new Table(LETTER, List.of(column("to_name", "TEXT")), List.of(), List.of(), "")),
          List.of(),
          List.of(),
          Map.of());

  private static final Gate.Terms TERMS =
      new Gate.Terms("register.csv", Kinds.BUILT_IN, false, List.of());

  private static Column column(String name, String type) {
    return new Column(name, type, true, false);
  }

  private static RegisterLine line(
      String column, String type, String kind, Decision decision, String reason) {
    return new RegisterLine(column, type, kind, decision, "", "", "ann", "2026-01-01", reason, 7);
  }

  private static List<RegisterLine> settled() {
    return new ArrayList<>(
        List.of(
            line("person.id", "INTEGER", "", Decision.KEEP, ""),
            line("person.name", "TEXT", "full-name", Decision.MASK, ""),
            line("person.data", "TEXT", "json", Decision.MASK, ""),
            line("person.data $.mail", "", "email", Decision.MASK, ""),
            line("person.data $.n", "", "", Decision.KEEP, ""),
            line("letter.to_name", "TEXT", "full-name", Decision.MASK, "")));
  }

  private static Decisions pass(List<RegisterLine> lines) {
    return Gate.pass(SCHEMA, new Register(lines), TERMS);
  }

  @Test
  void aSettledRegisterPasses() {
    Decisions decisions = pass(settled());
    assertThat(decisions.column(new ColumnName(PERSON, "name")).kind()).isEqualTo("full-name");
    assertThat(decisions.pathPlans(new ColumnName(PERSON, "data")))
        .isEqualTo(
            Map.of(
                "$.mail",
                new TablePlan.PathPlan(true, "email", MaskRule.NONE),
                "$.n",
                TablePlan.PathPlan.KEPT));
  }

  @ParameterizedTest
  @CsvSource({
    "person.name, TEXT, full-name, UNDECIDED, '', person.name is undecided (line 7)",
    "person.name, VARCHAR, full-name, MASK, '', person.name was reviewed as VARCHAR and is now TEXT",
    "person.name, TEXT, full-name, KEEP, '', person.name is kept though it is a full-name",
    "person.data $.mail, '', email, UNDECIDED, '', person.data $.mail is undecided"
  })
  void whatIsOpenIsRefused(
      String column, String type, String kind, Decision decision, String reason, String said) {
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals(column));
    lines.add(line(column, type, kind, decision, reason));
    Problem problem = catchThrowableOfType(Problem.class, () -> pass(lines));
    assertThat(problem.exitCode()).isEqualTo(3);
    assertThat(problem.getMessage()).contains(said, "register.csv");
  }

  @Test
  void aColumnWithoutALineIsRefused() {
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals("letter.to_name"));
    Problem problem = catchThrowableOfType(Problem.class, () -> pass(lines));
    assertThat(problem.getMessage()).contains("letter.to_name is not in the register");
    assertThat(Gate.open(SCHEMA, new Register(lines), TERMS)).hasSize(1);
  }

  @Test
  void keepingWhatLooksPersonalNeedsAReason() {
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals("letter.to_name"));
    lines.add(line("letter.to_name", "TEXT", "full-name", Decision.KEEP, "printed in the paper"));
    assertThat(pass(lines)).isNotNull();
  }

  @ParameterizedTest
  @CsvSource({
    "persn.name, no table persn",
    "person.nmae, no column person.nmae",
    "person, not the name of a column",
    "PERSON.NAME, stands in the register twice"
  })
  void aWrongLineIsAUsageProblem(String column, String said) {
    List<RegisterLine> lines = settled();
    lines.add(line(column, "TEXT", "", Decision.KEEP, ""));
    Problem problem = catchThrowableOfType(Problem.class, () -> pass(lines));
    assertThat(problem.exitCode()).isEqualTo(2);
    assertThat(problem.getMessage()).contains(said, "register.csv:7:1");
  }

  private static Plan plan(Decision decision, String kind, boolean cut) {
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals("letter.to_name"));
    lines.add(line("letter.to_name", "TEXT", kind, decision, "because"));
    Link link = new Link(LETTER, List.of("to_name"), PERSON, List.of("name"), false, "");
    Rule rule =
        new Rule(
            link,
            Follow.CHOSEN,
            yemble.core.project.Condition.NONE,
            LinkRule.ALL,
            cut,
            Broken.KEEP,
            List.of("to_name"),
            "yemble.yaml:9:3");
    return Plan.of(
        SCHEMA,
        new Request(List.of(), java.util.Optional.empty(), Set.of(), Set.of(), List.of(rule)),
        pass(lines),
        ColumnRules.of(SCHEMA, Conventions.NONE));
  }

  @Test
  void aLinkWhoseEndsAreMaskedAlikeIsFine() {
    Plan plan = plan(Decision.MASK, "full-name", false);
    assertThat(plan.table(PERSON).masked()).containsExactly(1, 2);
    assertThat(plan.table(LETTER).column("to_name").kindName()).isEqualTo("full-name");
  }

  @ParameterizedTest
  @CsvSource({"KEEP, ''", "MASK, email", "MASK, ''"})
  void aLinkWhoseEndsWouldDifferIsAContradiction(Decision decision, String kind) {
    Problem problem = catchThrowableOfType(Problem.class, () -> plan(decision, kind, false));
    assertThat(problem.exitCode()).isEqualTo(2);
    assertThat(problem.getMessage())
        .contains("letter.to_name -> person.name would break", "yemble.yaml:9:3");
    assertThat(plan(decision, kind, true)).as("a cut link need not agree").isNotNull();
  }

  @Test
  void aKindWithoutAMaskIsOpen() {
    Kind locker = Kind.own("locker", Category.IDENTITY, "a locker", "yemble.yaml:3:3");
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals("person.name"));
    lines.add(line("person.name", "TEXT", "locker", Decision.MASK, ""));
    Gate.Terms without =
        new Gate.Terms("register.csv", Kinds.BUILT_IN.with(List.of(locker)), false, List.of());
    assertThat(Gate.open(SCHEMA, new Register(lines), without))
        .singleElement()
        .asString()
        .contains("person.name is a locker, a kind that has no mask yet");
    MaskRule rule = MaskRule.of(List.of(new Fixed("x")), null);
    Gate.Terms ruled =
        new Gate.Terms(
            "register.csv",
            Kinds.BUILT_IN.with(List.of(locker)),
            false,
            List.of(new Conventions.ColumnRule("*.name", rule, null)));
    assertThat(Gate.open(SCHEMA, new Register(lines), ruled)).isEmpty();
    Kind masked = locker.masked("own-shape", "another one", "yemble.yaml:5:3");
    Gate.Terms with =
        new Gate.Terms("register.csv", Kinds.BUILT_IN.with(List.of(masked)), false, List.of());
    assertThat(Gate.open(SCHEMA, new Register(lines), with)).isEmpty();
  }

  @Test
  void wherePeopleReviewSurveyDecidesNothing() {
    List<RegisterLine> lines = settled();
    lines.removeIf(l -> l.column().equals("person.id"));
    lines.add(
        new RegisterLine(
            "person.id",
            "INTEGER",
            "",
            Decision.KEEP,
            "",
            "",
            RegisterLine.SURVEY,
            "2026-01-01",
            "",
            3));
    assertThat(Gate.open(SCHEMA, new Register(lines), TERMS)).isEmpty();
    Gate.Terms people = new Gate.Terms("register.csv", Kinds.BUILT_IN, true, List.of());
    assertThat(Gate.open(SCHEMA, new Register(lines), people))
        .singleElement()
        .asString()
        .contains("person.id was decided by survey");
  }
}
