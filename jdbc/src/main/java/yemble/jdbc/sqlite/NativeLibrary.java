package yemble.jdbc.sqlite;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.sqlite.util.LibraryLoaderUtil;

/**
 * SQLite's own code for this machine, laid into a folder once when Yemble is built: else the driver
 * unpacks it at every start, and leaves it in the temporary folder when it is killed.
 */
public final class NativeLibrary {
  private NativeLibrary() {}

  /** Unpacks the library into a folder that is made if need be; called by the launcher. */
  public static void main(String[] args) throws IOException {
    Path folder = Path.of(args[0]);
    Files.createDirectories(folder);
    String name = LibraryLoaderUtil.getNativeLibName();
    String resource = LibraryLoaderUtil.getNativeLibResourcePath() + "/" + name;
    try (InputStream in = NativeLibrary.class.getResourceAsStream(resource)) {
      if (in != null) {
        Files.copy(in, folder.resolve(name), StandardCopyOption.REPLACE_EXISTING);
      }
    }
  }
}
