/** Masks of what a person is: names, day of birth, official numbers. */
package yemble.core.mask.person;
