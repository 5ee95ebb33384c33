/**
 * The steps that a person puts masks together of: each with its word, what it is for, and what it
 * makes, in one file; all of them in {@link yemble.core.mask.step.Steps}.
 */
package yemble.core.mask.step;
