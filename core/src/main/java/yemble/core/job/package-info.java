/** The whole job: guard, gate, selection, load, proof, commit. */
package yemble.core.job;
