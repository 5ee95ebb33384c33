package yemble.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.project.ProjectFile;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;

/** What a rule of the project cannot do to a column, by what the schema and the register say. */
class RuleCheckTest {
  private static final TableName MEMBER = TableName.of("member");
  private static final TableName CARD = TableName.of("card");
  private static final Schema SCHEMA =
      new Schema(
          List.of(
              new Table(
                  MEMBER,
                  List.of(
                      column("no", "INTEGER", false),
                      column("name", "TEXT", true),
                      column("given", "TEXT", true),
                      column("code", "TEXT", false),
                      column("born", "DATE", true),
                      column("points", "INTEGER", true),
                      column("photo", "BLOB", true),
                      column("remark", "TEXT", true),
                      column("data", "TEXT", true),
                      column("kept", "TEXT", true)),
                  List.of("no"),
                  List.of(List.of("code")),
                  ""),
              new Table(
                  CARD, List.of(column("member_name", "TEXT", true)), List.of(), List.of(), "")),
          List.of(),
          List.of(),
          Map.of());

  private static final Map<String, String> KINDS =
      Map.of(
          "member.no", "employee-number",
          "member.name", "full-name",
          "member.given", "given-name",
          "member.code", "username",
          "member.born", "birth-date",
          "member.points", "salary",
          "member.photo", "biometric",
          "member.remark", "note",
          "member.data", "json",
          "card.member_name", "full-name");

  @TempDir Path folder;

  private static Column column(String name, String type, boolean nullable) {
    return new Column(name, type, nullable, false);
  }

  private static RegisterLine line(String column, String type, String kind, Decision decision) {
    return new RegisterLine(column, type, kind, decision, "", "", "ann", "2026-01-01", "so", 7);
  }

  /** The plan under what stands below {@code columns:} in the project file. */
  private Plan plan(String columns) throws IOException {
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases: { a: { url: x } }\ncolumns:\n  " + columns + "\n");
    List<RegisterLine> lines = new ArrayList<>();
    for (Table table : SCHEMA.tables()) {
      for (Column column : table.columns()) {
        String name = table.name(column).toString();
        boolean masked = KINDS.containsKey(name);
        lines.add(
            line(
                name,
                column.type(),
                masked ? KINDS.get(name) : "",
                masked ? Decision.MASK : Decision.KEEP));
      }
    }
    lines.add(line("member.data $.mail", "", "email", Decision.MASK));
    lines.add(line("member.data $.n", "", "", Decision.KEEP));
    Rule rule =
        new Rule(
            new Link(CARD, List.of("member_name"), MEMBER, List.of("name"), false, ""),
            Follow.CHOSEN,
            yemble.core.project.Condition.NONE,
            LinkRule.ALL,
            false,
            Broken.KEEP,
            List.of("member_name"),
            "");
    var conventions = ProjectFile.read(folder).conventions();
    return Plan.of(
        SCHEMA,
        new Request(List.of(), java.util.Optional.empty(), Set.of(), Set.of(), List.of(rule)),
        Gate.pass(
            SCHEMA,
            new Register(lines),
            new Gate.Terms("register.csv", conventions.kinds(), false, conventions.columns())),
        ColumnRules.of(SCHEMA, conventions));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      value = {
        "member.code: clear ~ it cannot become NULL",
        "member.points: { shift: { days: 3 } } ~ this is for days and times",
        "member.born: { noise: 10% } ~ this is for numbers",
        "member.photo: { digest: 8 } ~ this is for texts, numbers and days",
        "member.photo: { template: '{given}' } ~ this is for texts, numbers and days",
        "member.points: { filler: true } ~ this is for texts",
        "member.points: { replace: { a: b } } ~ this is for texts",
        "member.code: { fixed: x } ~ cannot mask a column of a key",
        "member.no: { range: [1, 9] } ~ cannot mask a column of a key",
        "member.code: { from-column: each } ~ cannot mask a column of a key",
        "member.name: { as: full-name, keyed-by: no } ~ cannot mask a column of a link",
        "card.member_name: { as: full-name, fresh: true } ~ cannot mask a column of a link",
        "member.given: { follow-names: true } ~ is for e-mail addresses and logins",
        "card.member_name: { as: email, follow-names: true } ~ there is no name to follow",
        "member.given: { as: given-name, keyed-by: nr } ~ there is no column member.nr",
        "member.code: { template: '{givn}' } ~ neither a column of member nor the kind",
        "member.code: { template: '{remark}' } ~ is free text",
        "member.code: { steps: [{ digest: 8 }, { template: '{given}' }] } ~ a template begins",
        "member.remark: { unknown-paths: stop } ~ speaks of JSON alone",
        "member.given: { unknown-paths: mask } ~ speaks of JSON alone",
        "member.given: { as: given-name, also: null } ~ masks of what holds no value",
        "member.kept: shape ~ the register keeps it",
        "member.data $.n: { fixed: 1 } ~ the register keeps it",
        "member.data $.mial: { fixed: 1 } ~ no line for member.data $.mial",
        "member.data $.mail: { as: email, when: 'no > 1' } ~ depends on the row",
        "member.data $.mail: { as: email, keyed-by: nr } ~ there is no column member.nr",
        "member.data $.mail: { as: email, keyed-by: $.none } ~ no line for member.data $.none",
        "member.name: { cases: [{ when: 'no > 1', as: email }, { else: keep }] } ~ needs a case of its own",
        "member.data $.mail: { from-column: each } ~ depends on the row",
        "member.gone: shape ~ member.gone"
      })
  void whatCannotHoldIsSaidWithItsPlace(String rule, String what) {
    Problem problem = catchThrowableOfType(Problem.class, () -> plan(rule));
    assertThat(problem).as(rule).isNotNull();
    assertThat(problem.exitCode()).isEqualTo(2);
    assertThat(problem.getMessage()).contains(what).contains("yemble.yaml:4:");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      value = {
        "member.code: { template: '{given:1}{points}' } ~ member ~ code ~ template",
        "member.given: { fixed: x, also: [null, empty] } ~ member ~ given ~ also NULL and empty",
        "member.remark: { replace: { a: b } } ~ member ~ remark ~ note, replace",
        "member.code: { follow-names: true } ~ member ~ code ~ username; follows the row's names",
        "member.born: { shift: { days: 3 } } ~ member ~ born ~ shift",
        "member.points: { from-column: weighted, keyed-by: no } ~ member ~ points ~ keyed by no",
        "'member.*en': { as: family-name } ~ member ~ given ~ family-name",
      })
  void whatCanHoldIsPartOfThePlan(String rule, String table, String column, String by)
      throws IOException {
    assertThat(plan(rule).table(TableName.of(table)).column(column).by()).contains(by);
  }

  @Test
  void aPathHasItsOwnKindAndRule() throws IOException {
    TablePlan.ColumnPlan data =
        plan("member.data $.mail: { as: username, scope: people }").table(MEMBER).column("data");
    assertThat(data.isJson()).isTrue();
    assertThat(data.paths().get("$.mail").kind()).isEqualTo("username");
    assertThat(data.paths().get("$.mail").rule().scope()).isEqualTo("people");
    assertThat(data.paths().get("$.n")).isEqualTo(TablePlan.PathPlan.KEPT);
    assertThat(data.stopsAtUnknownPaths()).isFalse();
  }

  @Test
  void settingsOfTextAndJsonLeaveTheKindsMask() throws IOException {
    Plan plan =
        plan("member.remark: { replace: { a: b } }\n  member.data: { unknown-paths: stop }");
    assertThat(plan.table(MEMBER).column("remark").isText()).isTrue();
    assertThat(plan.table(MEMBER).column("data").isJson()).isTrue();
    assertThat(plan.table(MEMBER).column("data").stopsAtUnknownPaths()).isTrue();
    TablePlan.ColumnPlan masked =
        plan("member.data: { unknown-paths: mask }").table(MEMBER).column("data");
    assertThat(masked.isJson()).isTrue();
    assertThat(masked.stopsAtUnknownPaths()).isFalse();
    assertThat(plan("member.remark: { filler: true }").table(MEMBER).column("remark").isText())
        .isFalse();
    assertThatThrownBy(() -> plan("member.data: { unknown-paths: stop, scope: x, also: null }"))
        .hasMessageContaining("holds no value");
  }
}
