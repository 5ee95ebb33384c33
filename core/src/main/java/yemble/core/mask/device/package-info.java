/** Masks of things that belong to a person: devices, addresses in the internet, vehicles. */
package yemble.core.mask.device;
