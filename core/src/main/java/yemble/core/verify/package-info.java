/** Proof: what a target holds, compared with what the source, the rules and the key make of it. */
package yemble.core.verify;
