/**
 * Lines to other machines by the OpenSSH client of this one, so that its configuration, agent, jump
 * hosts, certificates and known hosts count. What a line is used for is said elsewhere.
 */
package weftex.store.ssh;
