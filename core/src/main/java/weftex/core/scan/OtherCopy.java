package weftex.core.scan;

import weftex.core.address.AddressMap;
import weftex.core.address.MappedRows;

/**
 * By what the other copy would still show in this one.
 *
 * @param addresses maps its addresses to this copy's; what it would map is a leftover
 * @param prefixes its prefix of table names and this copy's
 */
public record OtherCopy(AddressMap addresses, MappedRows.Prefixes prefixes) {}
