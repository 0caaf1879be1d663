/**
 * What is inside a text: {@link weftex.core.value.Structure} reads serialised and JSON values into
 * a tree of {@link weftex.core.value.Node} over the original bytes, {@link
 * weftex.core.value.Rewriting} changes texts and numbers in place and leaves every other byte as it
 * is. Values are data: nothing is ever instantiated, and nothing malformed is ever repaired.
 */
package weftex.core.value;
