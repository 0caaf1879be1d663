/**
 * The files that Weftex keeps beside weftex.yaml: {@link weftex.store.state.StateFolder} knows
 * where each is, {@link weftex.store.state.Files0600} makes them readable only by their owner.
 */
package weftex.store.state;
