/**
 * Masks of texts by what they mention, and of what lies inside values: JSON, bytes that hold text.
 */
package yemble.core.mask.text;
