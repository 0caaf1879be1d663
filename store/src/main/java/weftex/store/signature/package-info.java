/**
 * Who signed what: signatures by SSH keys, and the file that names whose keys count. {@link
 * weftex.store.signature.ApprovalRule} says which approvals of a change set count.
 */
package weftex.store.signature;
