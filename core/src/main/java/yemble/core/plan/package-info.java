/**
 * What a job does to every column and row: the register and the rules brought together, refused
 * where something is open or contradicts itself.
 */
package yemble.core.plan;
