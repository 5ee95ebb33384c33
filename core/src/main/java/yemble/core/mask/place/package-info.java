/** Masks of where a person is: streets, towns, postal codes, countries. */
package yemble.core.mask.place;
