/**
 * How keying on a form goes: {@link weft.server.work.WorkTaking} takes down what pages send with a save, {@link
 * weft.server.work.WorkApi} tells it in figures.
 */
package weft.server.work;
