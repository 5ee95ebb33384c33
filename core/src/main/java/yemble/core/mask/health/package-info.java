/** Masks of what is said of a person's health. */
package yemble.core.mask.health;
