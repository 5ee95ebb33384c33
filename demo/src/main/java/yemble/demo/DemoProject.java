package yemble.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.SQLException;
import java.util.List;
import yemble.core.crypto.SecretKey;

/** Lays out the demo's folder: the database and the project file. */
public final class DemoProject {
  /** By this file a folder is known to be a demo's, and may be made anew. */
  public static final String MARK = ".yemble-demo";

  private static final List<String> FILES = List.of("yemble.yaml");

  private DemoProject() {}

  /** Fills a folder, which must be empty, missing, or a demo's. */
  public static void write(Path folder, int scale) throws IOException, SQLException {
    Files.createDirectories(folder);
    Files.writeString(folder.resolve(MARK), "This folder is made by \"yemble demo\".\n");
    for (String file : FILES) {
      try (InputStream in = DemoProject.class.getResourceAsStream(file)) {
        Files.copy(in, folder.resolve(file), StandardCopyOption.REPLACE_EXISTING);
      }
    }
    DemoData.write(folder.resolve("live.db"), scale);
  }

  /** The demo's key: no secret, so that everybody's demo shows the same names. */
  public static SecretKey key() {
    return SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();
  }
}
