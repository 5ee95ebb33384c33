/**
 * Where databases are, out of their URLs. Of a URL no more than engine, hosts, ports and database
 * is ever shown, and only if it could be read: what cannot may hold a password in a place that is
 * not known.
 */
package yemble.jdbc.location;
