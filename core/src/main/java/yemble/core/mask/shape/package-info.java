/** Masks that keep the shape of a value: letters, digits, calendar forms. */
package yemble.core.mask.shape;
