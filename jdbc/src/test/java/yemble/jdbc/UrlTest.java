package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import yemble.core.problem.Problem;
import yemble.core.store.Engine;

/** Of a URL only a place is understood and shown; what else stands in it is refused, unseen. */
class UrlTest {
  private static final String SECRET = "hunter2Quillevan";
  @TempDir Path folder;

  private Engine.Address address(String url) {
    return new Engine.Address("live (production)", url, folder, "", "");
  }

  static Stream<String> urls() throws IOException {
    try (InputStream in = UrlTest.class.getResourceAsStream("urls-with-secrets.txt")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines().filter(line -> !line.startsWith("#")).toList().stream();
    }
  }

  @ParameterizedTest
  @MethodSource("urls")
  void aUrlThatHoldsMoreThanAPlaceIsRefusedAndNotShown(String written) {
    String url = written.replace("§", SECRET);
    Problem problem = catchThrowableOfType(Problem.class, () -> Engines.check(address(url)));
    assertThat(problem).as(url).isNotNull();
    assertThat(problem.exitCode()).isEqualTo(2);
    assertThat(problem.remedy()).isNotEmpty();
    assertThat(problem.getMessage()).doesNotContain(SECRET).doesNotContain("hunter2");
    Problem opened =
        catchThrowableOfType(
            Problem.class, () -> Engines.of(address(url)).open(address(url)).close());
    assertThat(opened.getMessage()).doesNotContain(SECRET);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = ' ',
      value = {
        "jdbc:postgresql://db.internal/ferry?sslmode=verify-full&currentSchema=a",
        "jdbc:postgresql://[::1]:5432/ferry",
        "jdbc:postgresql://a:1,b:2/ferry?targetServerType=preferSecondary",
        "jdbc:postgresql:ferry",
        "jdbc:postgresql:///ferry",
        "jdbc:postgresql://h/f%C3%A4hre",
        "jdbc:postgresql://h/?user=me",
        "jdbc:mariadb://h:3306/ferry?sslMode=verify-full",
        "jdbc:mysql://h/ferry",
        "jdbc:sqlite:live.db",
        "jdbc:sqlite:/var/lib/a%20b/live=1.db",
        "jdbc:h2:~/ferry;MODE=PostgreSQL;IFEXISTS=TRUE",
        "jdbc:h2:tcp://localhost:9092/~/ferry",
        "jdbc:oracle:thin:@db.internal:1521/ferry",
        "jdbc:oracle:thin:@//db.internal:1521/ferry",
        "jdbc:sqlserver://db.internal:1433;databaseName=ferry;encrypt=true",
        "jdbc:hsqldb:file:/data/ferry;readonly=true",
        "jdbc:duckdb:/data/ferry.duckdb"
      })
  void aPlaceWithHarmlessParametersIsTaken(String url) {
    Engines.check(address(url));
  }

  @Test
  void aParameterThatTheDriverKnowsIsNamed() {
    for (String url :
        List.of(
            "jdbc:postgresql://h/x?socketfactory=a b",
            "jdbc:postgresql://h/x?loggerFile=x",
            "jdbc:mariadb://h/x?initSql=DELETE FROM person")) {
      Problem problem = catchThrowableOfType(Problem.class, () -> Engines.check(address(url)));
      assertThat(problem.what()).containsPattern("socketFactory|loggerFile|initSql");
      assertThat(problem.getMessage()).doesNotContain("DELETE");
    }
  }
}
