/** Masks of passwords. */
package yemble.core.mask.secret;
