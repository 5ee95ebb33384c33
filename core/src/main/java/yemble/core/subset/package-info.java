/**
 * Which rows: the rule that fits on a page, worked out in sets. Needs a {@link
 * yemble.core.store.Reader} and the key; the result depends on the source's rows, the project and
 * the key alone.
 */
package yemble.core.subset;
