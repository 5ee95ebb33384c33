/** YAML read as it is written, each value with the place it stands at. */
package yemble.core.yaml;
