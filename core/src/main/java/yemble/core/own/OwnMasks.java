package yemble.core.own;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.ServiceConfigurationError;
import java.util.ServiceLoader;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * The masks of one's own that a project names, by their words. Nothing of a jar runs before its
 * digest is what the project says; each jar's classes see Java and this package, and no other
 * jar's.
 */
public final class OwnMasks {
  public static final OwnMasks NONE = new OwnMasks(Map.of());

  private static final String ALGORITHM = "sha256:";

  private final Map<String, Found> found;

  private OwnMasks(Map<String, Found> found) {
    this.found = found;
  }

  /**
   * A mask.
   *
   * @param jar as the project writes it
   * @param digest of the jar
   */
  public record Found(OwnMask mask, String jar, String digest) {}

  /** A jar that a project names, with where it does. */
  public record Named(String jar, String digest, String place) {}

  /**
   * Loads jars.
   *
   * @param directory the project's folder
   * @throws Problem of type USAGE if one is not there, or holds no mask, of type REFUSED if it is
   *     not the one that the project names
   */
  public static OwnMasks of(Path directory, Iterable<Named> jars) {
    Map<String, Found> all = new LinkedHashMap<>();
    for (Named named : jars) {
      load(directory, named, all);
    }
    return all.isEmpty() ? NONE : new OwnMasks(all);
  }

  private static void load(Path directory, Named named, Map<String, Found> all) {
    int before = all.size();
    try {
      Path copy = checked(directory.resolve(named.jar()), named);
      URL[] urls = {copy.toUri().toURL()};
      ClassLoader loader = new URLClassLoader("own masks of " + named.jar(), urls, new Ours());
      Iterator<OwnMask> masks = ServiceLoader.load(OwnMask.class, loader).iterator();
      while (masks.hasNext()) {
        add(masks.next(), named, all);
      }
    } catch (IOException e) {
      throw Problem.of(Failure.PLUGIN, "the jar " + named.jar() + " cannot be read")
          .at(named.place())
          .remedy("build it, and put it there; paths start at the project's folder")
          .causedBy(e);
    } catch (ServiceConfigurationError | LinkageError e) {
      throw Problem.of(Failure.PLUGIN, "the jar " + named.jar() + " cannot be used")
          .at(named.place())
          .because("a class that it names is not there, or needs one that is not there")
          .remedy("put all that it needs into the one jar, for a Java that runs here")
          .causedBy(e);
    }
    if (all.size() == before) {
      throw Problem.of(Failure.PLUGIN, "the jar " + named.jar() + " has no mask")
          .at(named.place())
          .because("it lists none in META-INF/services/" + OwnMask.class.getName())
          .remedy("docs/own-masks.md has a project that does");
    }
  }

  /** A copy of a jar that nobody else can change, if its digest is right. */
  private static Path checked(Path jar, Named named) throws IOException {
    byte[] bytes = read(jar);
    String digest = ALGORITHM + sha256(bytes);
    if (!digest.equals(named.digest().toLowerCase(Locale.ROOT))) {
      throw Problem.of(
              Failure.PLUGIN_OTHER, "the jar " + named.jar() + " is not the one named here")
          .at(named.place())
          .because("its digest is " + digest)
          .remedy("see who changed it; if it is as it should be, write that digest here");
    }
    Path copy = Files.createTempFile("yemble-own", ".jar"); // For its owner alone.
    copy.toFile().deleteOnExit();
    Files.write(copy, bytes);
    return copy;
  }

  private static byte[] read(Path jar) throws IOException {
    if (!Files.isRegularFile(jar)) {
      throw new IOException("no file");
    }
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    Files.copy(jar, bytes);
    return bytes.toByteArray();
  }

  private static String sha256(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  private static void add(OwnMask mask, Named named, Map<String, Found> all) {
    String name = String.valueOf(mask.name());
    if (!name.matches("[a-z][a-z0-9]*(-[a-z0-9]+)*")) {
      throw Problem.of(Failure.PLUGIN, "a mask of " + named.jar() + " has a name that is no word")
          .at(named.place())
          .remedy("let name() give small letters, digits and hyphens: berth-code");
    }
    Found first = all.putIfAbsent(name, new Found(mask, named.jar(), named.digest()));
    if (first != null) {
      throw Problem.of(Failure.PLUGIN, "there are two masks of one's own called \"" + name + "\"")
          .at(named.place())
          .because("the first one is of " + first.jar())
          .remedy("give one of them another name, or leave its jar out");
    }
  }

  /** All, by their words. */
  public Map<String, Found> all() {
    return found;
  }

  /** What classes of a jar see beside their own: Java, and the interface. */
  private static final class Ours extends ClassLoader {
    Ours() {
      super(ClassLoader.getPlatformClassLoader());
    }

    @Override
    protected Class<?> findClass(String name) throws ClassNotFoundException {
      if (name.equals(OwnMask.class.getName())
          || name.equals(OwnMask.Work.class.getName())
          || name.equals(KeyedBytes.class.getName())) {
        return OwnMasks.class.getClassLoader().loadClass(name);
      }
      throw new ClassNotFoundException(name);
    }
  }
}
