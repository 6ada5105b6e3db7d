/** The pictures of the documents, taken anew from the demo. */
package weft.e2e.pictures;
