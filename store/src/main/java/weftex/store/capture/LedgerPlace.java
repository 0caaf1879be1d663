package weftex.store.capture;

import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * Where a base stands in the ledger of a copy.
 *
 * @param copy by which the copy is known, wherever it is
 * @param mark the ledger's entry of the base; null if it could not be written
 * @param sequence the place of the last entry before it in the order of the ledger; 0 if there was
 *     none
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record LedgerPlace(String copy, String mark, long sequence) {}
