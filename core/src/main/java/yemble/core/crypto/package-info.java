/**
 * The keyed functions that everything else is made of: the pseudo-random function, and bijections
 * on ranges of numbers built from it. Nothing here knows a kind of data.
 */
package yemble.core.crypto;
