package weftex.cli;

import java.io.IOException;
import weftex.store.Refusal;

/** What a run does. */
interface Work {
  Ended run() throws Refusal, IOException;
}
