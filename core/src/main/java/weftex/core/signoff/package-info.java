/**
 * What people say of a change set: a {@link weftex.core.signoff.Decision} with its {@link
 * weftex.core.signoff.Answer}, an {@link weftex.core.signoff.Approval}, and what of that is signed.
 */
package weftex.core.signoff;
