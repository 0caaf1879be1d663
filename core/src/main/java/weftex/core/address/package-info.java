/**
 * The addresses by which the copies know themselves, and their mapping from one to the other:
 * {@link weftex.core.address.AddressMap} is made from the configuration and maps whole values and
 * rows, {@link weftex.core.address.Form} names the ways in which an address is written.
 */
package weftex.core.address;
