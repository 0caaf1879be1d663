package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanza;
import java.util.List;

/** A stanza. */
record WrapStanza(String type, List<String> arguments, byte[] body) implements RecipientStanza {
  @Override
  public String getType() {
    return type;
  }

  @Override
  public List<String> getArguments() {
    return arguments;
  }

  @Override
  public byte[] getBody() {
    return body.clone();
  }
}
