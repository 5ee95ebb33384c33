/**
 * Parcels: a masked subset in one file, as {@code docs/parcel.md} has it. Written like any target,
 * read like any source.
 */
package yemble.core.parcel;
