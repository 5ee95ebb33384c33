/** Failures as the user meets them: what, where, why, what to do. */
package yemble.core.problem;
