/** The demo: an invented group of volunteers who test three invented rivers. */
package weft.server.demo;
