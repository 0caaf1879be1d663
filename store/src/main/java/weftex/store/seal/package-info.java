/**
 * Content that only its receivers can read, in the open age format. {@link
 * weftex.store.seal.Receivers} are public keys, a {@link weftex.store.seal.Keyring} holds private
 * ones, and a {@link weftex.store.seal.SealedFile} is made of parts that are sealed one by one, so
 * that it can be appended to. {@link weftex.store.seal.AtRest} says how the files of a state folder
 * are kept.
 */
package weftex.store.seal;
