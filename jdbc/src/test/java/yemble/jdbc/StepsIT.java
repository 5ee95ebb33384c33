package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.crypto.SecretKey;
import yemble.core.job.Masked;
import yemble.core.job.Opened;
import yemble.core.job.Pipe;
import yemble.core.job.Planned;
import yemble.core.mark.Mark;
import yemble.core.mask.Masks;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.core.project.Register;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaFile;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Passage;
import yemble.core.store.RowSource;
import yemble.core.store.Sink;
import yemble.core.subset.Selection;

/** The steps of a job, each made and used without those after it. */
class StepsIT {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();
  private static final TableName GUEST = new TableName("", "guest");

  @TempDir Path folder;
  private Project project;
  private Register register;

  @BeforeEach
  void aProject() throws IOException, SQLException {
    try (Connection connection = TestEngine.SQLITE.connect(folder);
        Statement statement = connection.createStatement()) {
      statement.execute(
          "CREATE TABLE guest (id INTEGER PRIMARY KEY, email TEXT, host INTEGER REFERENCES guest)");
      statement.execute(
          "INSERT INTO guest VALUES (1, 'ann@site.example', NULL), (2, 'bo@site.example', 1),"
              + " (3, '', 2), (4, NULL, NULL)");
    }
    write("yemble.yaml", "version: 1\ndatabases: { live: { url: 'jdbc:sqlite:test.db' } }\n");
    project("");
    write(
        "register.csv",
        "column,type,kind,decision,reason\nguest.id,,,keep,x\nguest.email,,email,mask,\n"
            + "guest.host,,,keep,x\n");
    register = Register.read(folder.resolve("register.csv"), "register.csv");
    Path key = folder.resolve("yemble.key");
    write("yemble.key", KEY.reveal());
    assertThat(key.toFile().setReadable(false, false) && key.toFile().setReadable(true, true))
        .isTrue();
  }

  private void write(String name, String text) throws IOException {
    Files.writeString(folder.resolve(name), text);
  }

  private void project(String where) throws IOException {
    write(
        "yemble.yaml",
        "version: 1\ndatabases: { live: { url: 'jdbc:sqlite:test.db' } }\njobs: { all: { from:"
            + " live, pick: { guest: { where: \""
            + (where.isEmpty() ? "id = 2" : where)
            + "\" } } } }\n");
    project = ProjectFile.read(folder);
  }

  private Opened opened() {
    return Opened.of(project, project.job("all"), false, Map.of(), Engines::of);
  }

  private Planned planned(Schema schema) {
    return Planned.of(schema, project, project.job("all"), register, KEY, true);
  }

  @Test
  void aPlanNeedsTextsAloneAndIsTheSameInAnotherProcess() throws IOException {
    Planned here;
    try (Opened opened = opened()) {
      here = planned(opened.source().schema());
      SchemaFile.write(folder.resolve("schema.json"), opened.source().schema());
    }
    Planned there = planned(SchemaFile.read(folder.resolve("schema.json")).orElseThrow());
    assertThat(there.rules()).isEqualTo(here.rules()).hasSize(32);
    assertThat(new Masks(there.masks()).of("email").apply("ann@site.example"))
        .isEqualTo(new Masks(here.masks()).of("email").apply("ann@site.example"))
        .isNotEqualTo("ann@site.example");
  }

  @Test
  void onlyTheSourceKnowsWhetherAConditionIsUnderstood() throws IOException {
    project("no_such_column = 2");
    try (Opened opened = opened()) {
      Planned planned = planned(opened.source().schema());
      assertThatThrownBy(() -> planned.request().check(opened.source()))
          .isInstanceOf(Problem.class)
          .hasMessageContaining("condition");
    }
  }

  @Test
  void rowsAreSelectedAndMaskedWithoutATarget() {
    try (Opened opened = opened()) {
      Planned planned = planned(opened.source().schema());
      Selection selection = Selection.of(opened.source(), planned.request(), KEY);
      // The one picked, the host that it needs, and the guest that it brings.
      assertThat(selection.part(GUEST).in().size()).isEqualTo(3);
      assertThat(selection.part(GUEST).picked().size()).isEqualTo(1);
      Masked masked = new Masked(opened.source(), planned, selection);
      Map<Object, Object> emails = new LinkedHashMap<>();
      masked
          .masker(planned.plan().table(GUEST))
          .rows(
              selection.part(GUEST).in(),
              (row, before, after) -> {
                assertThat(after[0]).isEqualTo(before[0]);
                emails.put(before[1], after[1]);
              });
      assertThat(emails).hasSize(3).containsEntry("", "");
      assertThat(emails.get("bo@site.example")).isNotEqualTo("bo@site.example");
    }
  }

  @Test
  void thePipePoursAnySourceIntoAnySink() {
    List<String> taken = new ArrayList<>();
    try (Opened opened = opened()) {
      RowSource source = opened.source();
      Table guest = source.schema().table(GUEST);
      Pipe.Flow flow =
          new Pipe.Flow(guest, source.all(guest), thread -> Passage.unchanged(source, guest));
      Map<TableName, Long> poured =
          Pipe.pour(source, List.of(flow), new Listed(taken), rows -> taken.add("told"));
      assertThat(poured).containsExactly(Map.entry(GUEST, 4L));
    }
    assertThat(taken)
        .containsExactly(
            "1 ann@site.example",
            "told",
            "2 bo@site.example",
            "told",
            "3 ",
            "told",
            "4 null",
            "told",
            "complete");
  }

  /** A sink that knows no shorter way than rows one by one. */
  private record Listed(List<String> taken) implements Sink {
    @Override
    public RowWriter rows(Table table) {
      return new RowWriter() {
        @Override
        public void write(long row, Object[] values) {
          taken.add(values[0] + " " + values[1]);
        }

        @Override
        public void close() {
          taken.add("complete");
        }
      };
    }

    @Override
    public void finish(Schema schema, Counting source) {}

    @Override
    public List<String> made() {
      return List.of();
    }

    @Override
    public void commit(Mark mark) {}

    @Override
    public void close() {}
  }
}
