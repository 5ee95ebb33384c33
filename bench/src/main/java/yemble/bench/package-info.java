/** Measurements: ratios against the databases' own bulk copy, same data, same run. */
package yemble.bench;
