package weftex.cli.command;

/**
 * One step.
 *
 * @param meanwhile what happens before it
 * @param words what is said before it
 * @param command as a user types it
 */
record DemoStep(DemoCommand.Meanwhile meanwhile, String words, String command) {
  DemoStep(String words, String command) {
    this(site -> {}, words, command);
  }

  /** The same where nothing can be signed. */
  DemoStep unsigned() {
    String plain = command.replaceAll(" --sign(ers)? \\S+", "");
    return plain.equals(command)
        ? this
        : new DemoStep(meanwhile, "There is no 'ssh-keygen' here to sign with:", plain);
  }
}
