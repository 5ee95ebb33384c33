/**
 * The numbers by which states know people: for each form one record with its country, authority,
 * spelling, check, the day of birth inside and what may change. Recognition and masks both read it.
 */
package yemble.core.official;
