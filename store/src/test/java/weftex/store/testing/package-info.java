/** What several tests need: a private database server, and a pair of copies to work on. */
package weftex.store.testing;
