package weftex.core.scan;

import java.io.IOException;
import java.util.List;
import weftex.core.address.AddressMap;
import weftex.core.address.MappedRows;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * What is known of the other copy.
 *
 * @param addresses maps its addresses to this copy's; what it would map is a leftover
 * @param mentions finds its host where that stands alone, which nothing maps; none where it is
 *     mapped
 * @param prefixes its prefix of table names and this copy's
 * @param counterpart tells which of two rows here is its own
 */
public record OtherCopy(
    AddressMap addresses,
    AddressMap mentions,
    MappedRows.Prefixes prefixes,
    Counterpart counterpart) {

  /** Tells what to do about a thing that is here twice. */
  public interface Counterpart {
    /** Nothing is known of the other copy's rows. */
    Counterpart NONE = (model, columns, one, two) -> "";

    /**
     * Which of two rows should go, and how the other copy's is made one with the other.
     *
     * @param columns those that tell most of the rows, and that are looked up readily
     * @return a clause; empty if nothing is known
     */
    String advice(TableModel model, List<Integer> columns, List<Value> one, List<Value> two)
        throws IOException;
  }
}
