/**
 * Tables and their columns as a builder defines them, what holds between their records, and the names they get. A
 * {@link weft.core.table.TableProposal} is what somebody asks for, with every fault told at once; a {@link
 * weft.core.table.Table}, where to start, is sound. Former names lead to a column for good.
 */
package weft.core.table;
