/**
 * Forms: what a form document says, how one is made from a table or from typed lines, and what is wrong with it. A
 * form is one immutable value that every change makes anew, so that steps back and differences come for free. Start at
 * {@link weft.core.form.Form}; {@code FormMaking} and {@code QuickLine} make parts of one, {@code Frays} looks for
 * faults, {@code FormTerms} tells what its rules can speak of.
 */
package weft.core.form;
