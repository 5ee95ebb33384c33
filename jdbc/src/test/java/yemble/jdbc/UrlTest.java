package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.problem.Problem;
import yemble.core.store.Engine;

/** Of a URL only a place is understood and shown; what else stands in it is refused, unseen. */
class UrlTest {
  private static final String SECRET = "hunter2Quillevan";
  @TempDir Path folder;

  private Engine.Address address(String url) {
    return new Engine.Address("live (production)", url, folder, "", "");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "jdbc:postgresql://user:§@h:5432/x",
        "jdbc:postgresql://user:§@h/x",
        "jdbc:postgresql://§@h/x",
        "jdbc:postgresql://h:5432/x;password=§",
        "jdbc:postgresql://h:5432/x&password=§",
        "jdbc:postgresql://h:5432/x?password=§",
        "jdbc:postgresql://h:5432/x?PASSWORD=§",
        "jdbc:postgresql://h:5432/x?user=u&password=§",
        "jdbc:postgresql://h:5432/x?sslpassword=§",
        "jdbc:postgresql:u:§@h",
        "jdbc:postgresql:u:§@h:5432/x",
        "jdbc:postgresql://h:§/x",
        "jdbc:postgresql://h:5432:§/x",
        "jdbc:postgresql://h/x?options=-c%20x=§",
        "jdbc:postgresql://h/x?§",
        "jdbc:postgresql://h/x?§=1",
        "jdbc:postgresql://h/x#§",
        "jdbc:postgresql:/§",
        "jdbc:postgresql:\\§",
        "jdbc:postgresql://h\\§/x",
        "jdbc:postgresql://h/x/§",
        "jdbc:postgresql://h/x?socketFactory=§",
        "jdbc:postgresql://h/x?sslmode=require&&password=§",
        "jdbc:postgresql://h/x?sslfactory=§",
        "jdbc:postgresql://h/x?loggerFile=§",
        "jdbc:postgresql://h/x?authenticationPluginClassName=§",
        "jdbc:postgresql://h/x?preferQueryMode=§",
        "jdbc:mariadb://u:§@h:3306/x",
        "jdbc:mariadb://h/x;password=§",
        "jdbc:mariadb://h/x?password=§",
        "jdbc:mariadb://h/x?PassWord=§",
        "jdbc:mariadb://h/x?user=u&pwd=§",
        "jdbc:mariadb://h:3306§/x",
        "jdbc:mariadb://address=(host=h)(password=§)/x",
        "jdbc:mariadb:replication://u:§@h/x",
        "jdbc:mariadb://h/x?initSql=SELECT '§'",
        "jdbc:mariadb://h/x?keyStorePassword=§",
        "jdbc:mariadb://h/x?sessionVariables=x=§",
        "jdbc:mariadb://h/x?allowMultiQueries=§",
        "jdbc:mariadb://h/x?allowLocalInfile=§",
        "jdbc:mariadb://h/x?credentialType=§",
        "jdbc:mysql://u:§@h/x",
        "jdbc:mysql://h/x?password2=§",
        "jdbc:sqlite:x.db?password=§",
        "jdbc:sqlite:x.db;password=§",
        "jdbc:sqlite:file:x.db?key=§",
        "jdbc:sqlite://u:§@h/x",
        "jdbc:sqlite::memory:§",
        "jdbc:sqlite:u:§@h",
        "jdbc:h2:mem:x;PASSWORD=§",
        "jdbc:h2:mem:x;INIT=SELECT '§'",
        "jdbc:h2:mem:x;TRACE_LEVEL_FILE=§",
        "jdbc:h2:u:§@h",
        "jdbc:orakel:thin:u/§@h:1521:x",
        "jdbc:sqlserver://h;user=u;password=§",
        "jdbc:§",
        "jdbc:§://h/x",
        "jdbc:derby:x;create=§",
        "jdbc:derby:x;bootPassword=§",
        "§"
      })
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
