/** What went wrong, in a form that a person can act on: {@link weftex.store.Refusal}. */
package weftex.store;
