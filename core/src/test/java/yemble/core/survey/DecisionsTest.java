package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** What may be decided in a register, and which columns follow. */
class DecisionsTest {
  private final Decisions decisions =
      new Decisions(
          new Schema(
              List.of(table("crew", "code", "mail"), table("rota", "crew"), table("swap", "crew")),
              List.of(link("rota", "crew", "code"), link("swap", "rota", "crew")),
              List.of(),
              Map.of()),
          List.of(),
          "ann");
  private final Register register =
      new Register(
          List.of(
              line("crew.code", ""), line("crew.mail", "email"),
              line("rota.crew", ""), line("swap.crew", "")));

  private static Table table(String name, String... columns) {
    return new Table(
        TableName.of(name),
        Arrays.stream(columns).map(c -> new Column(c, "TEXT", true, false)).toList(),
        List.of(),
        List.of(),
        "");
  }

  private static Link link(String child, String parent, String column) {
    return new Link(
        TableName.of(child), List.of("crew"), TableName.of(parent), List.of(column), true, "");
  }

  private static RegisterLine line(String column, String kind) {
    return new RegisterLine(
        column, "TEXT", kind, Decision.UNDECIDED, "0.60", "seen", "", "", "", 0);
  }

  @Test
  void whatIsLinkedFollowsAlongAChain() {
    RegisterLine code = register.line("crew.code");
    Map<RegisterLine, RegisterLine> all =
        decisions.withLinked(
            Map.of(code, decisions.decided(code, Decision.MASK, "employee-number", "")), register);
    assertThat(all.values())
        .extracting(RegisterLine::column)
        .containsExactly("crew.code", "rota.crew", "swap.crew");
    assertThat(all.values())
        .allSatisfy(line -> assertThat(line.kind()).isEqualTo("employee-number"))
        .allSatisfy(line -> assertThat(line.by()).isEqualTo("ann"));
    assertThat(all.get(register.line("swap.crew")).reason()).isEqualTo("linked to rota.crew");
  }

  @Test
  void whatLooksPersonalIsKeptForAReason() {
    RegisterLine mail = register.line("crew.mail");
    assertThatThrownBy(() -> decisions.decided(mail, Decision.KEEP, "email", " "))
        .isInstanceOf(Problem.class)
        .hasMessageContaining("say why it is kept");
    assertThat(decisions.decided(mail, Decision.KEEP, "email", "a list of all").decision())
        .isEqualTo(Decision.KEEP);
  }

  @Test
  void aDefinitionIsNotMasked() {
    RegisterLine view = line(Definitions.PREFIX + "view v", "email");
    assertThatThrownBy(() -> decisions.decided(view, Decision.MASK, "email", ""))
        .isInstanceOf(Problem.class);
  }

  @Test
  void whatSurveySuggestsIsMaskedAsItsKindOrKept() {
    assertThat(decisions.suggested(register.line("crew.mail")).decision()).isEqualTo(Decision.MASK);
    RegisterLine kept = decisions.suggested(register.line("crew.code"));
    assertThat(kept.decision()).isEqualTo(Decision.KEEP);
    assertThat(kept.reason()).isEqualTo("as survey suggests: seen");
  }

  @Test
  void aColumnOfAnotherTypeIsOpenAgain() {
    RegisterLine old = register.line("crew.code").typed("INTEGER");
    assertThat(decisions.isRetyped(old)).isTrue();
    assertThat(decisions.isRetyped(register.line("crew.code"))).isFalse();
    assertThat(decisions.decided(old, Decision.KEEP, "", "").type()).isEqualTo("TEXT");
  }

  @Test
  void columnsWithoutALineAreNamedByTheirTableOrThemselves() {
    Register few = new Register(List.of(line("crew.code", "")));
    assertThat(decisions.missing("CREW", few))
        .extracting(RegisterLine::column)
        .containsExactly("crew.mail");
    assertThat(decisions.missing("rota.crew", few)).hasSize(1);
    assertThat(decisions.missing("crew.code", few)).isEmpty();
  }
}
