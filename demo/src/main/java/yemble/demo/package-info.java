/** Orlisay Ferries: an invented company with invented people, and the project that goes with it. */
package yemble.demo;
