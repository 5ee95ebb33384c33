package yemble.core.project;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import yemble.core.crypto.SecretKey;
import yemble.core.file.SameFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Problem;

/**
 * The files that Yemble wrote where a user named them, kept in the project's state: their paths and
 * a digest of each, under the project's key, since a file may hold originals. What is no longer as
 * it was written is somebody else's. Without a key nothing is known.
 */
final class WrittenFiles {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String FILE = "written.json";

  private final Path file;
  private final SecretKey key;

  private WrittenFiles(Path file, SecretKey key) {
    this.file = file;
    this.key = key;
  }

  static WrittenFiles of(Path project, Map<String, String> environment) {
    SecretKey key = null;
    try {
      key = KeyFile.read(project, environment);
    } catch (Problem none) {
      // Then every file counts as somebody else's.
    }
    return new WrittenFiles(project.resolve(Project.STATE).resolve(FILE), key);
  }

  /** Whether a file is as Yemble wrote it. */
  boolean holds(Path path) {
    try {
      return key != null && digest(path).equals(read().get(SameFile.real(path).toString()));
    } catch (IOException e) {
      return false;
    }
  }

  void keep(Path path) throws IOException {
    if (key == null) {
      return;
    }
    Map<String, String> files = read();
    files.put(SameFile.real(path).toString(), digest(path));
    files.keySet().removeIf(other -> !Files.exists(Path.of(other)));
    WrittenFile.folder(file.getParent());
    WrittenFile.replace(
        file,
        JSON.writerWithDefaultPrettyPrinter().writeValueAsString(files) + "\n",
        Readers.OWNER);
  }

  private Map<String, String> read() {
    try {
      return Files.exists(file)
          ? JSON.readValue(file.toFile(), new TypeReference<TreeMap<String, String>>() {})
          : new TreeMap<>();
    } catch (IOException e) {
      return new TreeMap<>();
    }
  }

  private String digest(Path path) throws IOException {
    try (InputStream in = Files.newInputStream(path)) {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(key.scopeKey("written"), "HmacSHA256"));
      byte[] buffer = new byte[1 << 16];
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        mac.update(buffer, 0, read);
      }
      return HexFormat.of().formatHex(mac.doFinal());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }
}
