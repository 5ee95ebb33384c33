/** Masks of how a person is reached: addresses of mail and sites, logins, telephone numbers. */
package yemble.core.mask.contact;
