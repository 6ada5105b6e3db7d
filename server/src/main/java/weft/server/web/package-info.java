/** What serves the web app itself and watches over requests. */
package weft.server.web;
