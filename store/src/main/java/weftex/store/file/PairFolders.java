package weftex.store.file;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** The folders of both copies, if both can be looked into; else why not. */
public final class PairFolders implements AutoCloseable {
  private final Map<String, CopyFiles> copies;
  private final Optional<String> problem;

  private PairFolders(Map<String, CopyFiles> copies, Optional<String> problem) {
    this.copies = copies;
    this.problem = problem;
  }

  /**
   * Both folders.
   *
   * @param copies by the copy's name
   */
  public static PairFolders of(Map<String, CopyFiles> copies) {
    return new PairFolders(new LinkedHashMap<>(copies), Optional.empty());
  }

  /**
   * Files are not looked at.
   *
   * @param why as a clause; empty if nobody asked for it
   */
  public static PairFolders none(String why) {
    return new PairFolders(Map.of(), Optional.of(why));
  }

  /** Whether files are looked at. */
  public boolean areOpen() {
    return problem.isEmpty();
  }

  /** Why files are not looked at, as a clause; empty if nobody asked for that. */
  public String problem() {
    return problem.orElse("");
  }

  /** The files of a copy. */
  public CopyFiles of(String copy) {
    return copies.get(copy);
  }

  @Override
  public void close() {
    copies.values().forEach(CopyFiles::close);
  }
}
