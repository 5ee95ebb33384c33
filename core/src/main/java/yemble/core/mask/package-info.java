/**
 * What value: masks, and the kinds of personal data they belong to. A mask is a function of the
 * value and the key alone; nothing here knows a table.
 */
package yemble.core.mask;
