/** Masks of accounts, cards and banks. */
package yemble.core.mask.money;
