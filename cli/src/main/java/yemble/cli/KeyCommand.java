package yemble.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;

/** The project's key. */
@Command(
    name = "key",
    description = "Make the project's key, or show which one it is.",
    subcommands = {KeyCommand.New.class},
    footer = {
      "%nExamples:",
      "  yemble key             show the key's fingerprint",
      "  yemble key new         write a new key into yemble.key"
    })
final class KeyCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Override
  public Integer call() {
    show(common, KeyFile.read(common.directory(), common.environment()));
    return 0;
  }

  private static void show(CommonOptions common, SecretKey key) {
    if (common.json) {
      common.output.json(Json.object("fingerprint", key.fingerprint()));
    } else {
      common.output.line("fingerprint  " + key.fingerprint());
      common.output.flush();
    }
  }

  /** Makes a key. */
  @Command(
      name = "new",
      description = "Write a new key into yemble.key, readable by you alone.",
      footer = {
        "%nExamples:",
        "  yemble key new",
        "  yemble key new parcel    into parcel.key, for pack --sealed",
        "  yemble key new undo      into undo.key, for rewrite --undo",
        "  yemble key new store cards.key    for a token store"
      })
  static final class New implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(
        arity = "0..1",
        index = "0",
        paramLabel = "parcel|undo|store",
        description = "a key for sealed parcels, for originals that are kept, or a token store")
    String what = "";

    @Parameters(
        arity = "0..1",
        index = "1",
        paramLabel = "FILE",
        description = "where the key of a token store goes (default: store.key)")
    String file = "";

    @Override
    public Integer call() {
      if (!file.isEmpty() && !what.equals("store")) {
        throw Problem.of(Failure.OPTION, "only the key of a token store has a name of its own")
            .remedy("leave the file out");
      }
      if (what.equals("parcel")) {
        show(common, KeyFile.createForParcels(common.directory()));
        common.output.message(
            "Wrote "
                + Project.PARCEL_KEY_FILE
                + ". Name it in the project file: parcels: { key: '${file:"
                + Project.PARCEL_KEY_FILE
                + "}' }, and keep it out of version control.");
        return 0;
      }
      if (what.equals("undo")) {
        show(common, KeyFile.createForUndo(common.directory()));
        common.output.message(
            "Wrote "
                + Project.UNDO_KEY_FILE
                + ". Whoever has it, and a file of .yemble/undo, has the originals: keep it out of"
                + " version control.");
        return 0;
      }
      if (what.equals("store")) {
        String name = file.isEmpty() ? Project.STORE_KEY_FILE : file;
        show(common, KeyFile.createForStore(common.directory(), name));
        common.output.message(
            "Wrote "
                + name
                + ". Name it in the project file: stores: { …: { url: …, key: '${file:"
                + name
                + "}' } }, begin the store, and keep the key away from whoever may not lead back.");
        return 0;
      }
      if (!what.isEmpty()) {
        throw Problem.of(Failure.OPTION, "there is no such key to make")
            .remedy("say yemble key new, or key new parcel, undo or store");
      }
      SecretKey key = KeyFile.create(common.directory());
      show(common, key);
      common.output.message(
          "Wrote "
              + Project.KEY_FILE
              + ". Whoever has it can repeat every mask: keep it out of version control.");
      return 0;
    }
  }
}
