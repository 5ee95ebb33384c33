package yemble.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import yemble.demo.DemoServer;
import yemble.demo.MariadbServer;
import yemble.demo.PostgresqlServer;

/**
 * The servers that tests share which need no more of one than databases of their own: started when
 * they are first asked for, once for all tests of a process.
 */
final class Servers {
  private static DemoServer postgresql;
  private static MariadbServer mariadb;

  private Servers() {}

  /** Something that starts a server in a folder. */
  private interface Start<T extends DemoServer> {
    T in(Path folder) throws IOException;
  }

  static synchronized DemoServer postgresql() {
    postgresql = postgresql == null ? started(PostgresqlServer::start) : postgresql;
    return postgresql;
  }

  static synchronized MariadbServer mariadb() {
    mariadb = mariadb == null ? started(MariadbServer::start) : mariadb;
    return mariadb;
  }

  static DemoServer of(String engine) {
    return engine.equals("postgresql") ? postgresql() : mariadb();
  }

  private static <T extends DemoServer> T started(Start<T> start) {
    try {
      Path folder = Files.createTempDirectory("yemble-server");
      T server = start.in(folder.resolve("data"));
      Runtime.getRuntime()
          .addShutdownHook(
              new Thread(
                  () -> {
                    try {
                      server.close();
                      DemoServer.clear(folder);
                    } catch (IOException left) {
                      // What is left lies in the folder of temporary files.
                    }
                  }));
      return server;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
