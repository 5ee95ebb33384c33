/**
 * The forms of official numbers that masks know: where the day of birth stands in them, what may
 * change, and how their check digits are computed.
 */
package yemble.core.mask.id;
