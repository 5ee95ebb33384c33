package yemble.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import yemble.core.crypto.SecretKey;
import yemble.core.project.Project;

/** Lays out the demo's folder: the database and the project file. */
public final class DemoProject {
  /** By this file a folder is known to be a demo's, and may be made anew. */
  public static final String MARK = ".yemble-demo";

  private DemoProject() {}

  /** Fills a folder, which must be empty, missing, or a demo's, on SQLite. */
  public static void write(Path folder, int scale) throws IOException, SQLException {
    files(folder, "jdbc:sqlite:live.db", "jdbc:sqlite:dev.db");
    DemoData.write(folder.resolve("live.db"), scale);
  }

  /** The same on a server, which gets two databases. */
  public static void write(Path folder, int scale, DemoServer server)
      throws IOException, SQLException {
    server.create("live");
    server.create("dev");
    String user = "\n    user: " + server.user();
    files(folder, server.url("live") + user, server.url("dev") + user);
    try (Connection connection = server.connect("live")) {
      DemoData.write(connection, scale);
    }
  }

  private static void files(Path folder, String live, String dev) throws IOException {
    Files.createDirectories(folder);
    Files.writeString(folder.resolve(MARK), "This folder is made by \"yemble demo\".\n");
    String text;
    try (InputStream in = DemoProject.class.getResourceAsStream("yemble.yaml")) {
      text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
    Files.writeString(folder.resolve(".gitignore"), String.join("\n", Project.IGNORED) + "\n");
    Files.writeString(
        folder.resolve("yemble.yaml"),
        text.replace("jdbc:sqlite:live.db", live).replace("jdbc:sqlite:dev.db", dev));
  }

  /** The demo's key: no secret, so that everybody's demo shows the same names. */
  public static SecretKey key() {
    return SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();
  }
}
