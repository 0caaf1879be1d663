/** Public keys as SSH writes them, and the data types of which they are made. */
package weftex.store.sshkey;
